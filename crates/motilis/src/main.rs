//! Motilis.
fn main() {}
