//! Twenty-seven blades computed independently (see `tests/data/README.md`).
//!
//! There a bent wing turns as one that is not; here, as practice has it (CP-02), its turns go with the cosine of its cone.

use approx::assert_relative_eq;
use motilis_core::blade::{Blade, Family, Shaft};
use motilis_core::units::{
    KilogramsPerCubicMetre, Metres, MetresPerSecond, NewtonMetres, SquareMetresPerSecond,
};
use motilis_core::water::Water;
use serde_json::Value;

fn shaft(case: &Value) -> Shaft {
    let number = |field: &str| case[field].as_f64().unwrap();
    let blade = Blade::new(
        Family::from_key(case["family"].as_str().unwrap()).unwrap(),
        Metres(number("length_m")),
        Metres(number("width_m")),
        Metres(number("thickness_m")),
        KilogramsPerCubicMetre(number("density_kg_m3")),
    )
    .unwrap();
    let blade = case["bend"]
        .as_f64()
        .map_or(blade, |bend| blade.bent(bend).unwrap());
    Shaft::new(
        blade,
        u8::try_from(case["count"].as_u64().unwrap()).unwrap(),
        case["holding_moment_nm"].as_f64().map(NewtonMetres),
        number("friction"),
        Metres(number("clevis_radius_m")),
    )
    .unwrap()
}

#[test]
fn every_blade_does_what_the_reference_says() {
    let mut rows = 0;
    for line in include_str!("../data/blade_cases.jsonl").lines() {
        let case: Value = serde_json::from_str(line).unwrap();
        let water = Water::measured(
            KilogramsPerCubicMetre(case["water"]["density_kg_m3"].as_f64().unwrap()),
            SquareMetresPerSecond(case["water"]["kinematic_viscosity_m2_s"].as_f64().unwrap()),
        )
        .unwrap();
        let speed = MetresPerSecond(case["speed_mps"].as_f64().unwrap());
        let running = shaft(&case).at(speed, &water).unwrap();
        let expected = &case["expected"];
        let same = |ours: f64, field: &str| {
            assert_relative_eq!(ours, expected[field].as_f64().unwrap(), max_relative = 1e-6);
        };
        assert_eq!(running.state.key(), expected["state"], "{}", case["name"]);
        same(running.start.0, "start_mps");
        let bent = case["bend"].as_f64().map_or(1.0, |bend| {
            (55.0 - 25.0 * bend).to_radians().cos() / 40.0_f64.to_radians().cos()
        });
        same(running.turns.0 / bent, "turns_per_s");
        same(running.sweep_radius.0, "sweep_radius_m");
        same(running.side_force.0, "side_force_n");
        same(running.drag_area.0, "drag_area_m2");
        same(running.drag.0, "drag_n");
        match running.roll_over {
            Some(speed) => same(speed.0, "roll_over_mps"),
            None => assert!(expected["roll_over_mps"].is_null(), "{}", case["name"]),
        }
        rows += 1;
    }
    assert_eq!(rows, 27);
}
