//! The core against sources outside it: reference solutions, closed forms, tables, practice.

mod advice;
mod bench;
mod blade_reference;
mod blade_table;
mod boat;
mod closed_forms;
mod days;
mod evidence;
mod fleet;
mod laws;
mod light;
mod motion;
mod pins;
mod pool;
mod practice;
mod rigs;
mod river;
mod rods;
mod situations;
mod spread;
mod stir;
mod surface;
mod towline_reference;
mod waters;
