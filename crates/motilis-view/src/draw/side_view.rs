use super::kit::{Path, Px, Scale, Tick, Washes, drawn_depth, free_spot, ticks};
use crate::units::{Quantity, System};
use askama::Template;
use motilis_core::light::Fading;
use motilis_core::line::{Bottom, Run, Sure};
use motilis_core::units::Metres;

/// Height of the boxwood rule of setbacks at the foot.
const RULE: f64 = 40.0;
/// Width of the boxwood rule of depths at the left.
const SIDE: f64 = 46.0;

/// What the side view is drawn from.
pub struct SideSource<'a> {
    /// How the line runs; `None` draws the water alone.
    pub run: Option<&'a Run>,
    /// Height of the rod tip; 0 for a board or downrigger.
    pub tip_height: Metres,
    /// Whether the line starts at a board.
    pub board: bool,
    /// Depth of the water.
    pub bottom: Metres,
    /// How light fades in it.
    pub fading: &'a Fading,
    /// Upper and lower end of the fish.
    pub fish: (Metres, Metres),
    /// The boat's units.
    pub system: System,
    /// How sure its depth is.
    pub sure: Option<&'a Sure>,
    /// Whether what is out is a downrigger's cable.
    pub cable: bool,
    /// Size of the drawing.
    pub size: (f64, f64),
    /// Whether depths may be drawn longer than distances, which the drawing then says.
    pub stretched: bool,
}

/// One line from rod tip to rig, to scale: a foot is as long across as it is down, unless said.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/side_view.svg")]
pub struct SideView {
    width: Px,
    height: Px,
    rule_top: Px,
    surface: Px,
    bed: Px,
    washes: Washes,
    depth_ticks: Vec<Tick>,
    depth_minors: Vec<Px>,
    run_ticks: Vec<Tick>,
    run_minors: Vec<Px>,
    unit: &'static str,
    fish: (Px, Px),
    fish_at: Vec<(Px, Px)>,
    fish_label: String,
    bottom_label: String,
    is_cut: bool,
    stern: Px,
    board: bool,
    note: Vec<(Px, String)>,
    line: Option<Drawn>,
    title: String,
}

/// The line's own part of the drawing.
#[derive(Debug, Clone)]
struct Drawn {
    air: Path,
    curve: Path,
    weight: Option<(Px, Px)>,
    rig: (Px, Px),
    tip: (Px, Px),
    tag: (Px, Px),
    /// Where on the tag's edge the pointer to the rig ends.
    pointer: (Px, Px),
    depth: String,
    between: String,
    /// Upper and lower end of the band at the rig.
    band: Option<(Px, Px)>,
    out: String,
    warning: String,
}

impl SideView {
    /// Draws it.
    pub fn new(source: &SideSource<'_>) -> Self {
        let (width, height) = source.size;
        let unit = Quantity::Depth.unit(source.system);
        let air = source
            .run
            .map_or((0.0, 0.0), |run| air_piece(run, source.tip_height));
        let behind = source
            .run
            .map_or(20.0, |run| air.0 + run.rig.run.0)
            .max(3.0);
        let view = drawn_depth(source.bottom, deepest_of(source));
        let is_cut = view < source.bottom;
        let sky_px = 66.0;
        let stern = SIDE + 64.0;
        let bed_px = 34.0;
        // One scale for both directions, as large as the paper allows.
        let across = (width - stern - 0.13 * width) / behind;
        let down = (height - RULE - sky_px - bed_px) / view.0;
        let (across, down) = if source.stretched {
            (across.min(down), down)
        } else {
            (across.min(down), across.min(down))
        };
        let stretch = down / across;
        let bed = height - RULE - bed_px;
        let surface = bed - view.0 * down;
        let x = Scale::new((0.0, 1.0), (stern, stern + across));
        let y = Scale::new((0.0, 1.0), (surface, surface + down));
        let depth = |metres: Metres| source.system.depth(metres);
        let at_depth = |figure: f64| y.at(unit.to_si(figure));
        let at_run = |figure: f64| x.at(unit.to_si(figure));
        let deepest = unit.from_si(view.0);
        let farthest = unit.from_si((width - 14.0 - stern) / across);
        let most_ticks = ((view.0 * down) / 34.0).clamp(1.0, 9.0) as usize;
        let (from, to) = source.fish;
        let band = (y.at(from.0), y.length((to - from).0));
        let middle = band.0.0 + 0.5 * band.1.0;
        let mark = |at: Px, figure: f64| Tick {
            at,
            label: format!("{figure}"),
        };
        Self {
            width: Px(width),
            height: Px(height),
            rule_top: Px(height - RULE),
            surface: Px(surface),
            bed: Px(bed),
            washes: Washes::new(view, source.fading, &y),
            is_cut,
            depth_ticks: ticks(0.0, deepest, most_ticks)
                .into_iter()
                .filter(|figure| *figure > 0.0)
                .map(|figure| mark(at_depth(figure), figure))
                .collect(),
            depth_minors: ticks(0.0, deepest, most_ticks * 5)
                .into_iter()
                .map(at_depth)
                .collect(),
            run_ticks: ticks(0.0, farthest, (width / 90.0) as usize)
                .into_iter()
                .map(|figure| mark(at_run(figure), figure))
                .collect(),
            run_minors: ticks(0.0, farthest, (width / 14.0) as usize)
                .into_iter()
                .map(at_run)
                .collect(),
            unit: unit.symbol,
            fish: band,
            fish_at: [0.62, 0.74, 0.9, 0.82, 0.55]
                .iter()
                .zip([-0.3, 0.4, -0.2, 0.1, 0.35])
                .map(|(share, up)| {
                    (
                        Px(stern + (width - stern) * share),
                        Px(middle + up * (band.1.0 - 12.0).max(0.0)),
                    )
                })
                .collect(),
            fish_label: format!("fish {}–{}", depth(from).value, depth(to)),
            bottom_label: if is_cut {
                format!("bottom {}, not drawn", depth(source.bottom))
            } else {
                format!("bottom {}", depth(source.bottom))
            },
            stern: Px(stern),
            board: source.board,
            note: if stretch > 1.05 {
                scale_said(stretch, width)
            } else {
                Vec::new()
            },
            line: source
                .run
                .map(|run| drawn(source, run, air, (&x, &y), bed, depth)),
            title: title(source, depth),
        }
    }

    fn bed_height(&self) -> Px {
        Px(self.rule_top.0 - self.bed.0)
    }

    fn hatches(&self) -> Vec<(Px, Px)> {
        let places = (self.width.0 / 74.0) as usize;
        (0..places)
            .map(|i| (Px(SIDE + 26.0 + 74.0 * i as f64), Px(self.bed.0 + 3.0)))
            .collect()
    }
}

/// The deepest that is looked at.
fn deepest_of(source: &SideSource<'_>) -> Metres {
    let run = source.run.map_or(0.0, |run| {
        let weight = run.weight.as_ref().map_or(0.0, |weight| weight.depth.0);
        run.rig.depth.0.max(weight)
    });
    let sure = source.sure.map_or(0.0, |sure| sure.depth.high.0);
    Metres(run.max(sure).max(source.fish.1.0))
}

/// A computed depth, or the bottom's where the line would run below it.
fn on_paper(depth: Metres, source: &SideSource<'_>) -> Metres {
    Metres(depth.0.min(source.bottom.0))
}

/// Horizontal and vertical part of the straight piece in the air, m.
fn air_piece(run: &Run, tip_height: Metres) -> (f64, f64) {
    (run.air.0 * run.angle.0.cos(), tip_height.0)
}

fn drawn(
    source: &SideSource<'_>,
    run: &Run,
    air: (f64, f64),
    (x, y): (&Scale, &Scale),
    bed: f64,
    depth: impl Fn(Metres) -> crate::units::Figure,
) -> Drawn {
    // What would lie below the bottom lies on it.
    let place = |place: &motilis_core::towline::Place| {
        (
            x.at(air.0 + place.run.0),
            y.at(place.depth.0.min(source.bottom.0)),
        )
    };
    let rig = place(&run.rig);
    // The rod keeps its place on a stretched drawing too.
    let tip = (x.at(0.0), Px(y.at(-air.1).0.max(8.0)));
    let entry = (x.at(air.0), y.at(0.0));
    let (width, _) = source.size;
    let warning = match run.bottom {
        Bottom::Dragging { too_much, .. } => {
            format!("dragging: {} too much line", depth(too_much))
        }
        Bottom::Clear(_) | Bottom::Unknown => String::new(),
    };
    let drags = matches!(run.bottom, Bottom::Dragging { .. });
    let band = source.sure.filter(|_| !drags).map(|sure| &sure.depth);
    // Where neither the line nor the rig is: under the line, over the rig, ahead of it, high in the water.
    let (at_x, at_y) = (rig.0.0, rig.1.0);
    let line = run.profile.iter().map(place).map(|(x, y)| (x.0, y.0));
    let body = (-1..=8).map(|step| (at_x + 4.0 * f64::from(step), at_y));
    let seen: Vec<(f64, f64)> = line.chain(body).collect();
    let over = y.at(0.0).0 + 8.0;
    let spots: Vec<(f64, f64)> = [
        (at_x - 132.0, at_y + 12.0),
        (at_x - 20.0, at_y - 66.0),
        (at_x + 44.0, at_y - 24.0),
        (at_x - 150.0, at_y + 24.0),
        (at_x - 20.0, over),
        (width - 126.0, over),
    ]
    .into_iter()
    .map(|(x, y)| (x.clamp(SIDE + 4.0, width - 124.0), y.max(over)))
    .collect();
    let tag = free_spot(&spots, (120.0, 46.0), &seen, (width - 2.0, bed - 2.0));
    let tag = (Px(tag.0), Px(tag.1));
    Drawn {
        air: Path::through([tip, entry]),
        curve: Path::through(run.profile.iter().rev().map(place)),
        weight: run.weight.as_ref().map(place),
        rig,
        tip,
        tag,
        pointer: (
            Px(at_x.clamp(tag.0.0, tag.0.0 + 120.0)),
            Px(at_y.clamp(tag.1.0, tag.1.0 + 46.0)),
        ),
        depth: if run.floats() {
            "floats".to_owned()
        } else {
            depth(on_paper(run.rig.depth, source)).to_string()
        },
        between: band.map_or_else(String::new, |band| {
            source.system.between(band.low, band.high)
        }),
        band: band.map(|band| {
            let end = |depth: Metres| y.at(on_paper(depth, source).0);
            (end(band.low), end(band.high))
        }),
        out: if source.cable {
            format!("cable {}", depth(run.out))
        } else {
            format!("back {}", depth(run.out))
        },
        warning,
    }
}

fn title(source: &SideSource<'_>, depth: impl Fn(Metres) -> crate::units::Figure) -> String {
    let water = format!("Side view to scale, bottom at {}.", depth(source.bottom));
    let Some(run) = source.run else {
        return water;
    };
    let weight = run.weight.map_or(String::new(), |weight| {
        format!(", its weight at {}", depth(on_paper(weight.depth, source)))
    });
    let bottom = match run.bottom {
        Bottom::Dragging { too_much, .. } => {
            format!(" The line drags: {} too much is out.", depth(too_much))
        }
        Bottom::Clear(by) => format!(" It clears the bottom by {}.", depth(by)),
        Bottom::Unknown => String::new(),
    };
    format!(
        "{water} With {} {}out the rig runs at {}, {} behind{weight}.{bottom}",
        depth(run.out),
        if source.cable { "of cable " } else { "" },
        depth(on_paper(run.rig.depth, source)),
        depth(Metres(run.rig.run.0 + run.air.0 * run.angle.0.cos())),
    )
}

/// The scale in plain words; in two lines on a narrow drawing, clear of the rod.
fn scale_said(stretch: f64, width: f64) -> Vec<(Px, String)> {
    let said = [
        format!("a depth is drawn {stretch:.1} times"),
        "as long as a distance".to_owned(),
    ];
    if width < 600.0 {
        return [Px(20.0), Px(37.0)].into_iter().zip(said).collect();
    }
    vec![(Px(20.0), said.join(" "))]
}
