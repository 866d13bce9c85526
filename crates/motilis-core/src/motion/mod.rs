//! Lines in motion: a whole spread towed along a course, as lumped masses.
//!
//! A [`Chain`] is one line: nodes with the mass of their half segments, of what hangs on them and of the water
//! they carry along, joined by segments that do not stretch. The water moves as a [`Flow`] says, [`Still`] water not
//! at all. The drag law is that of [`crate::towline`]; what was
//! a steady balance there is a velocity here. A [`Tow`] is the lines of a spread behind a
//! boat that goes wherever it goes, its [`Way`]: [`record`] tows it along a [`Course`] and keeps a [`Frame`] every half
//! second; a [`Wake`] is the way of a boat that nobody knows beforehand.
//!
//! # Method
//! Implicit Euler. Drag is linearised about the velocities of the step with its own derivative, so that a line
//! without inertia to speak of does not swing; velocities and tensions at the end of the step are found by
//! Newton's method with the segments as they turn in it, one block of four unknowns a node, eliminated from the
//! tail up. A segment that would have to push goes slack. The step is stable whatever its length and takes energy
//! out, never in. First order in time, second in space; a steady tow is exact in time.
//!
//! # Validity
//! As [`crate::towline`], and: added mass of a cylinder across itself (one displaced mass), of a sphere for loads
//! (one half), both pushed by the acceleration of the water round them; line in the air weighs nothing, as in the steady model; no waves; a board keeps its distance and its lag on the path of the boat.
//!
//! # Sources
//! T. S. Walton & H. Polachek (1960), *Math. Comp.* 14:27, lumped masses with tensions as unknowns (from memory).

mod chain;
mod course;
mod flow;
mod recording;
mod tow;
mod wake;

pub use chain::{BladeDrag, Chain, NodeLoad, Piece};
pub use course::{Course, Track};
pub use flow::{Flow, Still};
pub use recording::{Frame, Near, Recording, Scene, record};
pub use tow::{LineFrame, Tow, Way};
pub use wake::Wake;
