use super::blade::outline;
use super::kit::{Path, Px, Scale, Tick, ticks};
use crate::units::{Quantity, System};
use askama::Template;
use motilis_core::blade::{Blade, Family};
use motilis_core::light::Picture;
use motilis_core::rig::Finish;
use motilis_core::units::Metres;

const HEIGHT: f64 = 560.0;
const SKY: f64 = 40.0;
const BED: f64 = 46.0;
/// Width of the ruler at the left.
const RULER: f64 = 56.0;
/// Where the ladder of finishes begins, as a share of the water's width.
const LADDER_FROM: f64 = 0.40;
/// A blade of the ladder is so long, px.
const RUNG: f64 = 25.0;

/// What the water column of a day is drawn from.
#[derive(Debug, Clone)]
pub struct ColumnSource<'a> {
    /// Width of the drawing, px.
    pub width: f64,
    /// Depth of the water.
    pub bottom: Metres,
    /// Depth at which a white disk is lost.
    pub clarity: Metres,
    /// Upper and lower end of the fish.
    pub fish: (Metres, Metres),
    /// What they are called.
    pub fish_name: &'a str,
    /// The depth looked at.
    pub wanted: Metres,
    /// What is said of it: "rig at".
    pub wanted_word: &'a str,
    /// Depth of the thermocline.
    pub thermocline: Option<Metres>,
    /// Surface temperature, shown.
    pub temperature: String,
    /// Colours of the water at even steps from the surface to the bottom.
    pub water: &'a [[f64; 3]],
    /// Depths of the ladder's rungs.
    pub rungs: &'a [Metres],
    /// Each finish of the ladder with its colour on each rung.
    pub finishes: &'a [(Finish, Vec<[f64; 3]>)],
    /// The boat's units.
    pub system: System,
}

/// A band of water: top, height, colour.
#[derive(Debug, Clone)]
struct Band {
    top: Px,
    height: Px,
    colour: String,
}

/// A finish down the ladder: its two letters above, a blade on each rung.
#[derive(Debug, Clone)]
struct Rail {
    at: Px,
    code: &'static str,
    blades: Vec<(Path, String)>,
}

/// The water of the day from surface to bottom in the colours a diver would see, with finishes down it, the
/// fish and the depth looked at.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/column.svg")]
pub struct WaterColumn {
    width: Px,
    bands: Vec<Band>,
    rails: Vec<Rail>,
    surface: Px,
    bed: Px,
    majors: Vec<Tick>,
    minors: Vec<Px>,
    unit: &'static str,
    fish: (Px, Px),
    fish_label: String,
    fish_at: Vec<(Px, Px)>,
    clarity: Px,
    clarity_label: String,
    thermocline: Option<(Px, String)>,
    rider: Px,
    rider_label: String,
    bottom_label: String,
    temperature: String,
    title: String,
}

impl WaterColumn {
    /// Draws the column.
    pub fn new(source: &ColumnSource<'_>) -> Self {
        let system = source.system;
        let unit = Quantity::Depth.unit(system);
        let (surface, bed) = (SKY, HEIGHT - BED);
        let y = Scale::new((0.0, source.bottom.0), (surface, bed));
        let deepest = unit.from_si(source.bottom.0);
        let at = |figure: f64| y.at(unit.to_si(figure));
        let depth = |metres: Metres| system.depth(metres);
        let (from, to) = source.fish;
        let fish_label = format!("{} {}–{}", source.fish_name, depth(from).value, depth(to));
        let middle = 0.5 * (y.at(from.0).0 + y.at(to.0).0);
        let half = 0.5 * (y.at(to.0).0 - y.at(from.0).0);
        let fish_at = [(96.0, 0.7), (136.0, 0.4), (170.0, -0.5)]
            .iter()
            .map(|(x, share)| (Px(*x), Px(middle + share * (half - 8.0).max(0.0))))
            .collect();
        Self {
            width: Px(source.width),
            bands: bands(source.water, surface, bed),
            rails: rails(source, &y),
            surface: Px(surface),
            bed: Px(bed),
            majors: ticks(0.0, deepest, 9)
                .into_iter()
                .filter(|figure| *figure > 0.0)
                .map(|figure| Tick {
                    at: at(figure),
                    label: format!("{figure}"),
                })
                .collect(),
            minors: ticks(0.0, deepest, 60).into_iter().map(at).collect(),
            unit: unit.symbol,
            fish: (y.at(from.0), Px((2.0 * half).max(3.0))),
            fish_at,
            clarity: y.at(source.clarity.0.min(source.bottom.0)),
            clarity_label: format!("disk lost {}", depth(source.clarity)),
            thermocline: source
                .thermocline
                .map(|metres| (y.at(metres.0), format!("thermocline {}", depth(metres)))),
            rider: y.at(source.wanted.0),
            rider_label: format!("{} {}", source.wanted_word, depth(source.wanted)),
            bottom_label: format!("bottom {}", depth(source.bottom)),
            temperature: source.temperature.clone(),
            title: format!(
                "Water column: {} deep, {fish_label}, {} {}, white disk lost at {}.",
                depth(source.bottom),
                source.wanted_word,
                depth(source.wanted),
                depth(source.clarity)
            ),
            fish_label,
        }
    }

    /// Right end of the water.
    fn right(&self) -> Px {
        self.width
    }

    fn fish_tag_y(&self) -> Px {
        // Clear of the rider's tag, which stands above its line.
        let below = self.fish.0.0 + self.fish.1.0 + 4.0;
        Px(below.min(self.bed.0 - 26.0))
    }

    fn clarity_clear_of_rider(&self) -> bool {
        (self.clarity.0 - self.rider.0).abs() > 30.0 && self.clarity.0 < self.bed.0 - 6.0
    }
}

fn bands(water: &[[f64; 3]], surface: f64, bed: f64) -> Vec<Band> {
    let step = (bed - surface) / water.len().max(1) as f64;
    water
        .iter()
        .enumerate()
        .map(|(place, colour)| Band {
            top: Px(surface + place as f64 * step),
            // A hair over the next one, so that no seam shows.
            height: Px(step + 0.6),
            colour: Picture::hex(*colour),
        })
        .collect()
}

fn rails(source: &ColumnSource<'_>, y: &Scale) -> Vec<Rail> {
    let blade = Blade::of_size(Family::Colorado, 4.0).expect("Colorado 4 is in the table");
    let face = outline(&blade, RUNG / blade.length.0);
    let water = source.width - RULER;
    let left = RULER + LADDER_FROM * water;
    let pitch = (source.width - left - 8.0) / source.finishes.len().max(1) as f64;
    source
        .finishes
        .iter()
        .enumerate()
        .map(|(place, (finish, colours))| {
            let at = left + (place as f64 + 0.5) * pitch;
            let blades = source.rungs.iter().zip(colours).map(|(depth, colour)| {
                (
                    face.at(at - 0.5 * RUNG, y.at(depth.0).0),
                    Picture::hex(*colour),
                )
            });
            Rail {
                at: Px(at),
                code: finish.colour.key(),
                blades: blades.collect(),
            }
        })
        .collect()
}
