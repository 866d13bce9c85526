//! `solve blade`: what one or two blades on a shaft do at a speed.

use crate::{Refusal, Refused, Water};
use motilis_core::blade::{Blade, Family, Shaft};
use motilis_core::units::{KilogramsPerCubicMetre, Metres, MetresPerSecond, NewtonMetres};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// One blade (or two equal ones), its shaft, and a speed.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
#[schema(as = BladeRequest, example = json!({
    "family": "colorado", "length_m": 0.0255, "width_m": 0.020, "thickness_m": 0.00047,
    "density_kg_m3": 8500, "speed_mps": 0.536, "water": {"temperature_c": 15}, "count": 1,
    "bend": null, "holding_moment_nm": 4.2e-5, "friction": 0.35, "clevis_radius_m": 0.0007
}))]
pub struct Request {
    /// Comes back with the answer.
    pub name: Option<String>,
    /// One of `colorado`, `indiana`, `french`, `hatchet_cut`, `willow`, `magnum_willow`,
    /// `through_wire_oval`, `soft_wing`, `hard_wing`, `spoon_blade` (which sways: its turns are sways).
    pub family: String,
    /// Length (span of a wing), above 0 and at most 0.5 m.
    pub length_m: f64,
    /// Width, above 0 and at most 0.5 m.
    pub width_m: f64,
    /// Thickness, above 0 and at most 0.02 m.
    pub thickness_m: f64,
    /// Density of the material, kg/m³.
    pub density_kg_m3: f64,
    /// Speed through the water, 0 to 15 m/s.
    pub speed_mps: f64,
    /// The water.
    pub water: Water,
    /// Blades on the shaft, 1 (when not given) or 2.
    pub count: Option<u8>,
    /// Bend of a soft wing, 0 flat to 1 bent in; null for 0.6. Other families take none.
    pub bend: Option<f64>,
    /// Moment that holds the rig upright, N·m; null when it is not known.
    pub holding_moment_nm: Option<f64>,
    /// Friction of the clevis; 0.35 when not given.
    pub friction: Option<f64>,
    /// Radius at which that friction acts; 0.000 7 m when not given.
    pub clevis_radius_m: Option<f64>,
}

/// What the blade does.
#[derive(Debug, Clone, Serialize, ToSchema)]
#[schema(as = BladeAnswer)]
pub struct Answer {
    /// The request's name.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub name: Option<String>,
    /// Speed at which the blade starts.
    pub start_mps: f64,
    /// Speed at which the rig rolls over; null without a holding moment.
    pub roll_over_mps: Option<f64>,
    /// Turns on the shaft a second.
    pub turns_per_s: f64,
    /// Radius the blade's tip sweeps.
    pub sweep_radius_m: f64,
    /// Side force of the front blade.
    pub side_force_n: f64,
    /// Drag area of all blades.
    pub drag_area_m2: f64,
    /// Drag of all blades.
    pub drag_n: f64,
    /// `stalled`, `turning` or `rolling_over`.
    #[schema(example = "turning")]
    pub state: &'static str,
}

/// Friction and radius of a metal clevis on a plastic bead on line.
const USUAL_FRICTION: f64 = motilis_core::blade::WET_METAL_ON_PLASTIC;
const USUAL_RADIUS_M: f64 = 0.0007;

/// Answers one request.
///
/// # Errors
/// [`Refusal`] with the field.
#[utoipa::path(post, path = "/api/v1/solve/blade", tag = "solve", request_body = Request, responses(
    (status = 200, description = "What the blade does", body = Answer),
    (status = 422, description = "The field that is wrong, and why", body = Refused),
))]
pub fn solve(request: Request) -> Result<Answer, Refusal> {
    let family = Family::from_key(&request.family).ok_or_else(|| {
        let known: Vec<&str> = Family::ALL.iter().map(|family| family.key()).collect();
        Refusal::new(
            "family",
            format!(
                "family {:?} is not one of {}",
                request.family,
                known.join(", ")
            ),
        )
    })?;
    let mut blade = Blade::new(
        family,
        Metres(request.length_m),
        Metres(request.width_m),
        Metres(request.thickness_m),
        KilogramsPerCubicMetre(request.density_kg_m3),
    )?;
    if let Some(bend) = request.bend {
        blade = blade.bent(bend)?;
    }
    let shaft = Shaft::new(
        blade,
        request.count.unwrap_or(1),
        request.holding_moment_nm.map(NewtonMetres),
        request.friction.unwrap_or(USUAL_FRICTION),
        Metres(request.clevis_radius_m.unwrap_or(USUAL_RADIUS_M)),
    )?;
    let running = shaft.at(
        MetresPerSecond(request.speed_mps),
        &request.water.properties()?,
    )?;
    Ok(Answer {
        name: request.name,
        start_mps: running.start.0,
        roll_over_mps: running.roll_over.map(|speed| speed.0),
        turns_per_s: running.turns.0,
        sweep_radius_m: running.sweep_radius.0,
        side_force_n: running.side_force.0,
        drag_area_m2: running.drag_area.0,
        drag_n: running.drag.0,
        state: running.state.key(),
    })
}
