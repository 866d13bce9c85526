//! What people see: view models, templates, drawings and the files that go with them.
//!
//! The way of a page is: computation (core) → view model (plain struct, words and positions ready)
//! → template. [`units`] is the only place that knows feet, miles and ounces. [`draw`] holds the
//! drawings, [`screens`] one view model for each screen, [`assets`] the static files. Nothing here
//! needs a server.

pub mod assets;
pub mod draw;
pub mod screens;
pub mod units;
pub mod words;
