use super::blade::outline;
use super::kit::{Path, Px};
use crate::units::System;
use crate::words::advice as say;
use askama::Template;
use motilis_core::blade::{Blade, Family};
use motilis_core::column::Seen;
use motilis_core::light::Picture;
use motilis_core::units::Metres;

/// One finish at the depth looked at.
#[derive(Debug, Clone)]
struct Row {
    code: &'static str,
    name: String,
    /// Fill of blade and water: to a diver, then to the fish.
    diver: (String, String),
    fish: (String, String),
    /// Length of its bar out of 100.
    bar: Px,
    figure: String,
    receptor: &'static str,
}

/// Finishes at one depth: as a diver and as the fish see them, and from how far.
#[derive(Debug, Clone, Template)]
#[template(path = "_sightings.html")]
pub struct Sightings {
    fish_name: String,
    face: Path,
    rows: Vec<Row>,
}

impl Sightings {
    /// Draws them in the order given.
    pub fn new(seen: &[Seen], fish_name: &str, system: System) -> Self {
        let blade = Blade::of_size(Family::Colorado, 4.0).expect("Colorado 4 is in the table");
        let farthest = seen
            .iter()
            .map(|one| one.sighting.range)
            .fold(0.1, f64::max);
        Self {
            fish_name: fish_name.to_owned(),
            face: outline(&blade, 34.0 / blade.length.0).at(10.0, 21.0),
            rows: seen
                .iter()
                .map(|one| Row {
                    code: one.finish.colour.key(),
                    name: say::finish_name(one.finish),
                    diver: (
                        Picture::hex(one.picture.finish),
                        Picture::hex(one.picture.behind),
                    ),
                    fish: (Picture::hex(one.fish.finish), Picture::hex(one.fish.behind)),
                    bar: Px((100.0 * one.sighting.range / farthest).max(0.5)),
                    figure: say::distance(Metres(one.sighting.range), system),
                    receptor: receptor(one.sighting.receptor),
                })
                .collect(),
        }
    }
}

/// The receptor that sees it farthest, in words.
fn receptor(name: &str) -> &'static str {
    match name {
        "UV" => "ultraviolet cones",
        "S" => "blue cones",
        "M" => "green cones",
        "L" => "red cones",
        "rod" => "rods",
        _ => "eye",
    }
}
