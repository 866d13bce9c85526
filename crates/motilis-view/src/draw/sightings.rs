use super::blade::outline;
use super::kit::{Path, Px, Scale};
use crate::units::System;
use crate::words::advice as say;
use askama::Template;
use motilis_core::blade::{Blade, Family};
use motilis_core::column::Seen;
use motilis_core::light::Picture;
use motilis_core::units::Metres;

/// Height of a row, px.
const ROW: f64 = 46.0;
/// Height of the head, px.
const HEAD: f64 = 40.0;
/// Where the bars begin and end, px.
const BARS: (f64, f64) = (296.0, 560.0);

/// One finish at the depth looked at.
#[derive(Debug, Clone)]
struct Row {
    top: Px,
    /// Middle of the row.
    middle: Px,
    code: &'static str,
    name: String,
    face: [Path; 2],
    /// Fill of blade and water: to a diver, then to the fish.
    diver: (String, String),
    fish: (String, String),
    bar: Px,
    figure: String,
    receptor: &'static str,
}

/// Finishes at one depth: as a diver and as the fish see them, and from how far.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/sightings.svg")]
pub struct Sightings {
    height: Px,
    fish_name: String,
    rows: Vec<Row>,
    title: String,
}

impl Sightings {
    /// Draws them in the order given.
    pub fn new(seen: &[Seen], fish_name: &str, system: System) -> Self {
        let blade = Blade::of_size(Family::Colorado, 4.0).expect("Colorado 4 is in the table");
        let face = outline(&blade, 34.0 / blade.length.0);
        let farthest = seen
            .iter()
            .map(|one| one.sighting.range)
            .fold(0.1, f64::max);
        let x = Scale::new((0.0, farthest), BARS);
        let rows: Vec<Row> = seen
            .iter()
            .enumerate()
            .map(|(place, one)| {
                let top = HEAD + place as f64 * ROW;
                let middle = top + 0.5 * ROW;
                Row {
                    top: Px(top),
                    middle: Px(middle),
                    code: one.finish.colour.key(),
                    name: say::finish_name(one.finish),
                    face: [face.at(184.0, middle), face.at(244.0, middle)],
                    diver: (
                        Picture::hex(one.picture.finish),
                        Picture::hex(one.picture.behind),
                    ),
                    fish: (Picture::hex(one.fish.finish), Picture::hex(one.fish.behind)),
                    bar: Px((x.at(one.sighting.range).0 - BARS.0).max(1.0)),
                    figure: say::distance(Metres(one.sighting.range), system),
                    receptor: receptor(one.sighting.receptor),
                }
            })
            .collect();
        let told: Vec<String> = rows
            .iter()
            .map(|row| format!("{} {}", row.name, row.figure))
            .collect();
        Self {
            height: Px(HEAD + rows.len() as f64 * ROW + 6.0),
            fish_name: fish_name.to_owned(),
            title: format!("Seen from: {}.", told.join(", ")),
            rows,
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
