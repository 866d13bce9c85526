//! The web application: routes, forms, guards. Computation is the core's, markup the views'.
//!
//! A request goes guard → extractor → question → page, or guard → extractor → form → act → redirect.
//! [`router::configure`] lists every address on one screen; [`App`] asks the helm and does acts. Every change is a
//! `POST` that ends in a redirect, so pages work without scripts; htmx only swaps the part that changed.

mod access;
mod api;
mod app;
mod assets;
mod device;
mod error;
mod guard;
mod keeper;
pub mod router;
mod runs;
mod screens;
mod server;
mod upkeep;

pub use access::{Access, LONGEST, PhraseRefused, SHORTEST};
pub use app::App;
pub use error::Error;
pub use guard::Hosts;
pub use server::{Bound, Server, serve};
