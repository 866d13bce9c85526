use super::kit::{Px, Scale, Tick, Washes, ticks};
use crate::units::{Quantity, System, show};
use askama::Template;
use motilis_core::units::Metres;

const WIDTH: f64 = 400.0;
const HEIGHT: f64 = 560.0;
const SKY: f64 = 40.0;
const BED: f64 = 46.0;

/// What the water column of a day is drawn from.
#[derive(Debug, Clone)]
pub struct ColumnSource<'a> {
    /// Depth of the water.
    pub bottom: Metres,
    /// Depth at which a white disc is lost.
    pub clarity: Metres,
    /// Upper and lower end of the fish.
    pub fish: (Metres, Metres),
    /// What they are called.
    pub fish_name: &'a str,
    /// Where rigs shall run.
    pub wanted: Metres,
    /// Surface temperature, shown.
    pub temperature: String,
    /// The boat's units.
    pub system: System,
}

/// The water of the day from surface to bottom, with the fish and the wanted depth.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/column.svg")]
pub struct WaterColumn {
    washes: Washes,
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
        let depth = |metres: Metres| show(Quantity::Depth, metres.0, system);
        let (from, to) = source.fish;
        let fish_label = format!("{} {}–{}", source.fish_name, depth(from).value, depth(to));
        let middle = 0.5 * (y.at(from.0).0 + y.at(to.0).0);
        let half = 0.5 * (y.at(to.0).0 - y.at(from.0).0);
        let fish_at = [
            (150.0, -0.4),
            (222.0, 0.35),
            (296.0, -0.15),
            (340.0, 0.5),
            (188.0, 0.75),
        ]
        .iter()
        .map(|(x, share)| (Px(*x), Px(middle + share * (half - 8.0).max(0.0))))
        .collect();
        Self {
            washes: Washes::new(source.bottom, source.clarity, &y),
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
            fish_label: fish_label.clone(),
            fish_at,
            clarity: y.at(source.clarity.0.min(source.bottom.0)),
            clarity_label: format!("white disc lost at {}", depth(source.clarity)),
            rider: y.at(source.wanted.0),
            rider_label: depth(source.wanted).to_string(),
            bottom_label: format!("bottom {}", depth(source.bottom)),
            temperature: source.temperature.clone(),
            title: format!(
                "Water column: {} deep, {fish_label}, rig wanted at {}, white disc lost at {}.",
                depth(source.bottom),
                depth(source.wanted),
                depth(source.clarity)
            ),
        }
    }

    fn fish_tag_y(&self) -> Px {
        Px((self.fish.0.0 + 4.0).min(self.bed.0 - 30.0))
    }

    fn clarity_clear_of_rider(&self) -> bool {
        (self.clarity.0 - self.rider.0).abs() > 30.0 && self.clarity.0 < self.bed.0 - 6.0
    }
}

/// Width and height are fixed; the template repeats them in its `viewBox`.
const _: () = assert!(WIDTH == 400.0 && HEIGHT == 560.0);
