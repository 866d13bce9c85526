//! The web application: routes, forms, guards. Computation is the core's, markup the views'.
//!
//! A request goes guard → extractor → form → service → view model → page. [`router::configure`] lists
//! every address on one screen; [`App`] holds what all handlers share. Every change is a `POST` that
//! ends in a redirect, so pages work without scripts; htmx only swaps the part that changed.

mod api;
mod app;
mod assets;
mod error;
mod forms;
mod guard;
pub mod router;
mod screens;
mod server;

pub use app::App;
pub use error::Error;
pub use guard::Hosts;
pub use server::{Server, bind};
