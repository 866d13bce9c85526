//! The boat under way against the truth of a simulated lake.

mod ahead;
mod wires;
