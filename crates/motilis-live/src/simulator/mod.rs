//! Simulated stand-ins for what is outside of this program: a lake's bed, a boat on it, its instruments, and fish.
//!
//! [`Bed`] is the invented bottom of a lake, smooth and from a seed. [`Helm`] takes a boat over it, through wind and
//! current. [`Simulator`] lets both go on second by second, and says what the boat's instruments would. [`Fishery`] holds
//! schools that nobody else knows of, and says which rod bends. All of it invented.

mod bed;
mod fishery;
mod helm;
mod instruments;

pub use bed::Bed;
pub use fishery::{Bite, Fishery, Rigged, Truth};
pub use helm::{Helm, Order, Sailing};
pub use instruments::{Faults, Simulator, TRANSDUCER};
