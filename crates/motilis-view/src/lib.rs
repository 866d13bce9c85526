//! What people see: view models, templates, drawings and the files that go with them.
//!
//! The way of a page is: answer (helm) → view model ([`present`]: plain struct, words and positions ready) → template;
//! the way of a form: texts → [`forms`] → act. [`units`] is the only place that knows feet, miles and ounces. [`draw`] holds the
//! drawings, [`screens`] one view model for each screen, [`assets`] the static files. Nothing here
//! needs a server.

pub mod assets;
pub mod draw;
pub mod forms;
pub mod present;
pub mod screens;
mod seen;
pub mod units;
pub mod words;

pub use seen::{Device, FileSaid, Role, Seen};
