//! NMEA 0183: what a boat's instruments say, in and out.
//!
//! [`Reader`] takes bytes as they come off a wire or out of a file and tells what was said ([`Heard`]), dropping what is
//! damaged, said twice or too late, and counting it by reason ([`Counts`]). [`ride`] makes of a recording one [`Row`] a
//! second. [`Sentences`] writes what the simulated instruments say.
//!
//! # Source
//! Sentence layouts as published in gpsd's *NMEA Revealed* (E. S. Raymond; from memory) and in the `nmea` crate, which reads RMC,
//! GGA, VTG, VHW, MTW and MWV here; depth (DBT, and DPT with an offset of either sign) is read beside it.

mod counts;
mod reader;
mod ride;
mod sentence;
mod write;

pub use counts::{Counts, Fault};
pub use reader::{Heard, Reader};
pub use ride::{Ride, Row, ride};
pub use write::Sentences;
