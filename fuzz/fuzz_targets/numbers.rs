//! What is typed into a field: a figure in its range, or a sentence; and what a figure is shown as is read as that figure again.
#![no_main]

use libfuzzer_sys::fuzz_target;
use motilis_core::Range;
use motilis_view::units::{Quantity, Reader, System};

fuzz_target!(|typed: &str| {
    for system in [System::Imperial, System::Metric] {
        for quantity in [Quantity::Depth, Quantity::Speed, Quantity::Bench, Quantity::Temperature] {
            let range = Range::closed(-1_000.0, 100_000.0, "", "a figure");
            let reader = Reader { label: "Figure", quantity, system, range };
            match reader.read(typed) {
                Ok(si) => assert!(range.holds(si)),
                Err(problem) => assert!(!problem.0.contains('\n') && problem.0.len() < 400, "{problem}"),
            }
        }
    }
});
