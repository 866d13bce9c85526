//! The core against sources outside it: reference solutions, closed forms, tables, practice.

mod bench;
mod blade_reference;
mod blade_table;
mod closed_forms;
mod laws;
mod light;
mod practice;
mod rigs;
mod towline_reference;
