use super::blade::{Outline, outline};
use super::kit::{Path, Px};
use askama::Template;
use motilis_core::blade::State;
use motilis_core::rig::{Bait, Colour, Hook, HookStyle, Mount, Part, Rig};
use motilis_core::units::Metres;

const WIDTH: f64 = 320.0;
const AXIS: f64 = 72.0;
/// Height of the clevis over the shaft.
const CLEVIS: f64 = 7.0;

/// Lengths the bench will measure; until then usual ones, m, from memory.
mod usual {
    /// From the rear of the stack to the front hook's eye.
    pub const GAP: f64 = 4e-3;
    /// From one hook's eye to the next.
    pub const HOOK_SPACING: f64 = 75e-3;
    /// Shank of a hook over its gap.
    pub const SHANK: f64 = 2.1;
    /// Body over its diameter.
    pub const BODY: f64 = 3.0;
    /// Dressing behind its collar.
    pub const DRESSING: f64 = 45e-3;
    /// Swivel.
    pub const SWIVEL: f64 = 14e-3;
}

/// A rig, drawn from its parts: blade faces, beads, bodies, hooks, bait, all to one scale.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/rig.svg")]
pub struct RigSketch {
    blades: Vec<Placed<Outline>>,
    hammered: bool,
    beads: Vec<(Px, Px, &'static str)>,
    bodies: Vec<(Px, Px, Px)>,
    dressings: Vec<(Path, &'static str)>,
    hooks: Vec<Path>,
    swivel: Option<Px>,
    bait: Option<Path>,
    wire_end: Px,
    wire: bool,
    turning: bool,
    scale_note: String,
    title: String,
}

/// Something at a place along the shaft.
#[derive(Debug, Clone)]
struct Placed<T> {
    x: Px,
    y: Px,
    finish: &'static str,
    shape: T,
}

/// Lays the parts along the axis, metres from the front.
struct Layout {
    blades: Vec<(f64, usize)>,
    beads: Vec<(f64, f64, &'static str)>,
    bodies: Vec<(f64, f64)>,
    dressings: Vec<(f64, &'static str)>,
    hooks: Vec<(f64, Hook)>,
    swivel: Option<f64>,
    end: f64,
}

impl Layout {
    fn new(parts: &[Part]) -> Self {
        let mut layout = Self {
            blades: Vec::new(),
            beads: Vec::new(),
            bodies: Vec::new(),
            dressings: Vec::new(),
            hooks: Vec::new(),
            swivel: None,
            end: 0.0,
        };
        let mut x = 0.0;
        for (place, part) in parts.iter().enumerate() {
            match part {
                Part::Swivel { .. } => {
                    layout.swivel = Some(x);
                    // The leader is cut short here.
                    x += 2.0 * usual::SWIVEL;
                }
                Part::Blade { blade, .. } => {
                    if blade.family.is_wing() {
                        x += 0.5 * blade.length.0;
                    }
                    layout.blades.push((x, place));
                    x += 2e-3;
                }
                Part::Beads {
                    count,
                    diameter,
                    colour,
                    ..
                } => {
                    for _ in 0..*count {
                        layout
                            .beads
                            .push((x + 0.5 * diameter.0, diameter.0, class(*colour)));
                        x += diameter.0;
                    }
                }
                Part::Body { diameter, .. } => {
                    layout.bodies.push((x, diameter.0));
                    x += usual::BODY * diameter.0;
                }
                Part::Dressing { colour, .. } => layout.dressings.push((x, class(*colour))),
                Part::Hook(hook) => {
                    let spacing = if layout.hooks.is_empty() {
                        usual::GAP
                    } else {
                        usual::HOOK_SPACING
                    };
                    x += spacing;
                    layout.hooks.push((x, *hook));
                }
                Part::Bait(_) => {}
            }
        }
        let hooks_end = layout
            .hooks
            .last()
            .map_or(x, |(x, hook)| x + usual::SHANK * hook.gap().0);
        let blades_end = layout
            .blades
            .iter()
            .map(|(x, place)| parts[*place].blade().map_or(*x, |blade| x + blade.length.0));
        let dressings_end = layout.dressings.iter().map(|(x, _)| x + usual::DRESSING);
        layout.end = blades_end.chain(dressings_end).fold(hooks_end, f64::max);
        layout
    }
}

impl RigSketch {
    /// Draws a rig with its blade turned back, as it lies on the bench or turns in the water.
    pub fn new(rig: &Rig, state: State) -> Self {
        let layout = Layout::new(rig.parts());
        let bait = rig.parts().iter().find_map(|part| match part {
            Part::Bait(bait) => Some(*bait),
            _ => None,
        });
        let bait_reach = bait.map_or(0.0, |bait| bait_length(bait).0);
        let first_hook = layout.hooks.first().map_or(0.0, |(x, _)| *x);
        let end = layout.end.max(first_hook + bait_reach);
        let scale = (WIDTH - 24.0) / end.max(1e-3);
        let (blade, finish, _) = rig.front_blade();
        // The blade stands above the shaft on its clevis, so that the beads stay in sight.
        let room = (AXIS - CLEVIS - 6.0) / blade.width.0;
        let scale = scale.min(96.0 / 25.4 * 1_000.0).min(room);
        let px = |metres: f64| Px(12.0 + metres * scale);
        // A blade that does not turn hangs below the shaft.
        let lift = if state == State::Turning {
            0.5 * blade.width.0 * scale + CLEVIS
        } else {
            -CLEVIS
        };
        let blades = layout.blades.iter().map(|(x, _)| {
            let shape = outline(blade, scale);
            let hole = shape.hole.0.0;
            Placed {
                x: Px(px(*x).0 - hole),
                y: Px(AXIS - lift),
                finish: class(finish.colour),
                shape,
            }
        });
        let share = scale / (96.0 / 25.4 * 1_000.0);
        Self {
            blades: blades.collect(),
            hammered: finish.hammered,
            beads: layout
                .beads
                .iter()
                .map(|(x, diameter, class)| (px(*x), Px(0.5 * diameter * scale), *class))
                .collect(),
            bodies: layout
                .bodies
                .iter()
                .map(|(x, diameter)| {
                    (
                        px(*x),
                        Px(usual::BODY * diameter * scale),
                        Px(diameter * scale),
                    )
                })
                .collect(),
            dressings: layout
                .dressings
                .iter()
                .map(|(x, class)| (skirt(px(*x).0, usual::DRESSING * scale), *class))
                .collect(),
            hooks: layout
                .hooks
                .iter()
                .map(|(x, hook)| hook_path(px(*x).0, hook, scale))
                .collect(),
            swivel: layout.swivel.map(px),
            bait: bait.map(|bait| worm(px(first_hook).0, bait_length(bait).0 * scale, scale)),
            wire_end: px(layout.hooks.last().map_or(end, |(x, _)| *x)),
            wire: matches!(rig.mount, Mount::Wire(_)),
            turning: state == State::Turning,
            scale_note: if share > 0.98 {
                "true size".to_owned()
            } else {
                format!("{:.0} % of true size, leader cut short", share * 100.0)
            },
            title: format!("{}: {}.", rig.name, crate::words::parts(rig)),
        }
    }
}

fn class(colour: Colour) -> &'static str {
    match colour {
        Colour::Brass => "f-br",
        Colour::Copper => "f-cu",
        Colour::Nickel => "f-ni",
        Colour::Chartreuse => "f-ch",
        Colour::Orange => "f-or",
        Colour::Pink => "f-pk",
        Colour::White => "f-wh",
        Colour::Purple => "f-pu",
    }
}

/// Usual length of a bait, from memory.
fn bait_length(bait: Bait) -> Metres {
    Metres(match bait {
        Bait::Crawler => 0.125,
        Bait::HalfCrawler => 0.065,
        Bait::WormPiece => 0.025,
        Bait::Leech => 0.06,
        Bait::BaitFish => 0.12,
    })
}

/// Eye, shank, bend, point and barb of a hook seen from the side; a treble shows two of its bends.
fn hook_path(x: f64, hook: &Hook, scale: f64) -> Path {
    let gap = hook.gap().0 * scale;
    let shank = usual::SHANK * gap;
    let mut path = Path::default();
    let mut bend = |side: f64| {
        path.push('M', &[Px(x), Px(AXIS)]);
        let lower = AXIS + side * gap;
        if hook.style == HookStyle::BentShank {
            let middle = AXIS - side * 0.25 * gap;
            path.push('L', &[Px(x + 0.35 * shank), Px(middle)]);
        }
        path.push('L', &[Px(x + shank - 0.5 * gap), Px(AXIS)]);
        let reach = x + shank + 0.2 * gap;
        path.push(
            'C',
            &[
                Px(reach),
                Px(AXIS),
                Px(reach),
                Px(lower),
                Px(x + shank - 0.5 * gap),
                Px(lower),
            ],
        );
        path.push(
            'L',
            &[Px(x + shank - 1.0 * gap), Px(lower - side * 0.12 * gap)],
        );
        path.push(
            'L',
            &[Px(x + shank - 0.74 * gap), Px(lower - side * 0.3 * gap)],
        );
    };
    bend(1.0);
    if hook.style == HookStyle::Treble {
        bend(-1.0);
    }
    path
}

/// The outline of a worm that hangs on the hooks.
fn worm(x: f64, length: f64, scale: f64) -> Path {
    let half = 2.6e-3 * scale;
    let y = AXIS + 5.5e-3 * scale;
    let mut path = Path::default();
    path.push('M', &[Px(x), Px(y)]);
    path.push(
        'C',
        &[
            Px(x + 0.3 * length),
            Px(y - 2.0 * half),
            Px(x + 0.7 * length),
            Px(y),
            Px(x + length),
            Px(y + half),
        ],
    );
    path.push(
        'C',
        &[
            Px(x + 0.7 * length),
            Px(y + 2.4 * half),
            Px(x + 0.3 * length),
            Px(y + half),
            Px(x),
            Px(y),
        ],
    );
    path.closed()
}

/// Five strands of a skirt.
fn skirt(x: f64, length: f64) -> Path {
    let mut path = Path::default();
    for strand in -2..=2 {
        let side = f64::from(strand);
        path.push('M', &[Px(x), Px(AXIS + side)]);
        path.push(
            'Q',
            &[
                Px(x + 0.5 * length),
                Px(AXIS + 4.5 * side),
                Px(x + length),
                Px(AXIS + 3.2 * side),
            ],
        );
    }
    path
}
