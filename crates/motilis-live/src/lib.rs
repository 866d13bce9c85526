//! The boat under way, as threads and wires.
//!
//! - A [`Wire`] says where the instruments are heard: over TCP, UDP, out of a recording, or on a simulated boat.
//! - The [`Bridge`] puts together what they say with the rods that are in; it knows neither wires nor clocks.
//! - [`Live`] is the thread of both: it listens, tows the twin, and tells all who ask, with the moments of the last two hours
//!   for entries that come late.
//! - [`simulator`] stands in for lake, boat, instruments and fish; [`BoatServer`] lets others call it up.

mod bridge;
mod clock;
mod hub;
mod server;
pub mod simulator;
mod wire;

pub use bridge::{BoatAt, Bridge, Known, TypedCurrent, Waters};
pub use clock::Clock;
pub use hub::{Bend, Live, Setting, Told};
pub use server::BoatServer;
pub use wire::{Boat, Link, PACES, PORT, Wire};
