//! A rig on the bench, at true size: the shaft with its parts, the blade's face above, dimensions, the
//! ruler, balloons in tying order. Leaders are cut short where nothing is on them.

use super::kit::{Path, Px};
use super::part::{Mark, Place, TRUE_SIZE, bent_bait, circle, crescent, face, side, snell, swept};
use crate::words::bench as words;
use askama::Template;
use motilis_core::bench::{Layout, Level, Seat};
use motilis_core::rig::{Part, Setting, Spacing, Stack, What};
use motilis_core::units::{INCH, MILLIMETRE, Metres};

/// Longest piece of bare line, and of an attractor, that is drawn whole.
const BARE: Metres = Metres(0.06);
const LONG_PART: Metres = Metres(0.05);
/// What stays of bare line at each end of a break.
const STUB: Metres = Metres(0.016);
/// Width of a break on paper, px.
const BREAK: f64 = 30.0;
/// Room left and right of the rig, px.
const MARGIN: f64 = 26.0;
/// Least gap between the centres of two balloons, px.
const BALLOONS: f64 = 27.0;

/// What a drawing shows beside the rig.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Detail {
    /// Everything, for the board and the sheet.
    Full,
    /// The rig alone.
    Plain,
}

/// What a drawing is made from.
pub struct BenchSource<'a> {
    /// The rig.
    pub stack: &'a Stack,
    /// Where its parts sit.
    pub layout: &'a Layout,
    /// Its name.
    pub name: &'a str,
    /// What to show beside it.
    pub detail: Detail,
    /// The piece in hand.
    pub selected: Option<usize>,
    /// Pieces that a check is not content with.
    pub flags: &'a [(usize, Level)],
    /// For each step: the piece it is about, and whether it is done.
    pub steps: &'a [(Option<usize>, bool)],
    /// The dimension in hand.
    pub in_hand: Option<Setting>,
    /// Whether the blade hangs instead of lying back.
    pub hanging: bool,
    /// Least width, px.
    pub least_width: f64,
}

impl<'a> BenchSource<'a> {
    /// The rig alone, nothing in hand and nothing beside it.
    pub fn plain(stack: &'a Stack, layout: &'a Layout, name: &'a str) -> Self {
        Self {
            stack,
            layout,
            name,
            detail: Detail::Plain,
            selected: None,
            flags: &[],
            steps: &[],
            in_hand: None,
            hanging: false,
            least_width: 0.0,
        }
    }
}

/// One piece of the rig.
#[derive(Debug, Clone)]
pub struct DrawnPiece {
    /// Its place in the stack.
    pub at: usize,
    /// What it is.
    pub label: String,
    /// Its lines and surfaces.
    pub marks: Vec<Mark>,
    /// Whether it is in hand.
    pub selected: bool,
    /// Middle, left end and width on the axis.
    pub middle: Px,
    /// Left end.
    pub left: Px,
    /// Width to hit.
    pub width: Px,
    /// Top and height to hit: a blade is taken above the beads it lies on.
    pub grip: (Px, Px),
}

/// A dimension line with its figure.
#[derive(Debug, Clone)]
pub struct Dimension {
    /// The line with its arrows, broken where the figure stands.
    pub lines: Vec<(Px, Px)>,
    /// Height of the line, for upright ones its x.
    pub y: Px,
    /// Whether it stands upright.
    pub upright: bool,
    /// Lines from the part to the dimension.
    pub extensions: Path,
    /// Where the figure stands.
    pub text: (Px, Px),
    /// The figure.
    pub figure: String,
    /// Where its words end, when they stand beside short arrows.
    pub anchor: &'static str,
    /// `rider` when it is in hand.
    pub class: &'static str,
}

/// A number in tying order.
#[derive(Debug, Clone, PartialEq)]
pub struct Balloon {
    /// Where it stands.
    pub x: Px,
    /// Where its line begins at the part.
    pub from: Px,
    /// The step.
    pub number: usize,
    /// Whether it is done.
    pub done: bool,
}

/// The boxwood ruler under the rig.
#[derive(Debug, Clone)]
pub struct Ruler {
    /// Where it begins.
    pub from: Px,
    /// Its width.
    pub width: Px,
    /// Millimetres: where, and the figure of every tenth.
    pub millimetres: Vec<(Px, u8, String)>,
    /// Sixteenths of an inch likewise.
    pub sixteenths: Vec<(Px, u8, String)>,
}

/// The blade's face above the shaft.
#[derive(Debug, Clone)]
pub struct Face {
    /// Its lines and surfaces.
    pub marks: Vec<Mark>,
    /// The finish's two letters.
    pub code: &'static str,
    /// Where they stand.
    pub at: (Px, Px),
    /// Projection lines down to the shaft.
    pub projections: Path,
}

/// A rig on the bench.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/bench.svg")]
pub struct BenchDrawing {
    /// Width of the drawing.
    pub width: Px,
    /// Its height.
    pub height: Px,
    /// Height of the shaft.
    pub axis: Px,
    /// Grid lines: the fifth of each is drawn stronger.
    pub grid: (Path, Path),
    /// Shaft, skirts' tails and bait, under the pieces.
    pub under: Vec<Mark>,
    /// The pieces.
    pub pieces: Vec<DrawnPiece>,
    /// Snells and breaks over them.
    pub over: Vec<Mark>,
    /// The blade's face.
    pub face: Option<Face>,
    /// Dimensions.
    pub dimensions: Vec<Dimension>,
    /// Balloons.
    pub balloons: Vec<Balloon>,
    /// Marks of checks at their places.
    pub flags: Vec<(Px, &'static str)>,
    /// Where the ruler's scale begins.
    pub zero: Px,
    /// The ruler.
    pub ruler: Option<Ruler>,
    /// Whether everything is shown.
    pub full: bool,
    /// The whole in words.
    pub title: String,
}

/// Maps the layout's axis to paper, with breaks where bare line or a long part is cut short.
#[derive(Debug, Clone)]
struct Axis {
    /// Stretches that are drawn, from the front, m, each with where it begins on paper.
    drawn: Vec<(f64, f64, f64)>,
}

impl Axis {
    fn new(stack: &Stack, layout: &Layout) -> Self {
        let long_front = layout
            .seats
            .iter()
            .filter(|seat| Stack::is_front_hardware(&stack.pieces[seat.piece].part))
            .rfind(|seat| (seat.to - seat.from).0 > LONG_PART.0);
        let start = long_front.map_or(layout.start, |seat| seat.to - LONG_PART);
        let mut kept = Vec::new();
        if !stack.mount.is_wire() && layout.stack_from > BARE {
            kept.push((start.0, STUB.0));
            kept.push(((layout.stack_from - STUB).0, layout.end.0));
        } else {
            kept.push((start.0.min(0.0), layout.end.0.max(0.01)));
        }
        let mut px = MARGIN + if long_front.is_some() { BREAK } else { 0.0 };
        let mut drawn = Vec::new();
        for (from, to) in kept {
            drawn.push((from, to, px));
            px += (to - from) * TRUE_SIZE + BREAK;
        }
        Self { drawn }
    }

    fn at(&self, x: f64) -> f64 {
        let first = self.drawn[0];
        for &(from, to, px) in &self.drawn {
            if x <= to {
                // What lies in a break is drawn at its rear end.
                return px
                    + (x - from).max(if (from, to, px) == first {
                        f64::MIN
                    } else {
                        0.0
                    }) * TRUE_SIZE;
            }
        }
        let (from, _, px) = *self.drawn.last().expect("there is always a stretch");
        px + (x - from) * TRUE_SIZE
    }

    /// Middles of the breaks.
    fn breaks(&self) -> Vec<f64> {
        self.drawn
            .windows(2)
            .map(|pair| {
                let end = pair[0].2 + (pair[0].1 - pair[0].0) * TRUE_SIZE;
                0.5 * (end + pair[1].2)
            })
            .collect()
    }

    fn end(&self) -> f64 {
        let (from, to, px) = *self.drawn.last().expect("there is always a stretch");
        px + (to - from) * TRUE_SIZE
    }
}

impl BenchDrawing {
    /// Draws a rig.
    pub fn new(source: &BenchSource<'_>) -> Self {
        let (stack, layout) = (source.stack, source.layout);
        let full = source.detail == Detail::Full;
        let axis_of = Axis::new(stack, layout);
        let blade = layout.rear_blade(stack).copied();
        let widest = blade.map_or(0.0, |seat| {
            stack.pieces[seat.piece].part.width().0 * TRUE_SIZE
        });
        let clearance_above = stack
            .pieces
            .iter()
            .map(|piece| match piece.part.what() {
                What::Clevis(_) => piece.part.reach().0,
                What::Blade(family) if family.is_wing() => 0.5 * piece.part.length().0,
                What::Blade(_) => {
                    0.5 * piece.part.width().0.min(8e-3) + 0.2 * piece.part.length().0
                }
                What::Attractor(_) => 0.4 * piece.part.width().0.min(0.05),
                _ => piece.part.diameter().0,
            })
            .fold(4e-3, f64::max)
            * TRUE_SIZE;
        let face_y = 52.0 + 0.5 * widest;
        let axis = if full {
            (if blade.is_some() {
                face_y + 0.5 * widest + 46.0
            } else {
                60.0
            }) + clearance_above
        } else {
            12.0 + clearance_above
        };
        let below = stack
            .pieces
            .iter()
            .map(|piece| match piece.part.what() {
                What::Hook(_) | What::Rudder => piece.part.width().0,
                What::Blade(family) if family.is_wing() => 0.5 * piece.part.length().0,
                What::Bait(_) => 0.011,
                _ => 0.5 * piece.part.diameter().0,
            })
            .fold(4e-3, f64::max)
            * TRUE_SIZE;
        let at = |x: f64| axis_of.at(x);
        let pieces = pieces(source, &at, axis);
        let (under, over) = lines(source, &axis_of, axis, blade.as_ref());
        let foot = axis + below;
        let width =
            (axis_of.end() + MARGIN + if full { 40.0 } else { 0.0 }).max(source.least_width);
        let dimensions = if full {
            dimensions(source, &axis_of, axis, (foot, face_y), blade.as_ref())
        } else {
            Vec::new()
        };
        let height = if full { foot + 172.0 } else { foot + 12.0 };
        let zero = at(layout.stack_from.0);
        Self {
            width: Px(width),
            height: Px(height),
            axis: Px(axis),
            grid: if full {
                grid(zero, width, height - 60.0)
            } else {
                (Path::default(), Path::default())
            },
            balloons: balloons(source, &pieces),
            flags: source
                .flags
                .iter()
                .filter(|(_, level)| *level != Level::Pass)
                .filter_map(|(at, level)| {
                    let piece = pieces.iter().find(|piece| piece.at == *at)?;
                    Some((piece.middle, words::mark(*level)))
                })
                .collect(),
            face: blade
                .filter(|_| full)
                .map(|seat| blade_face(stack, &seat, &axis_of, (face_y, axis))),
            under,
            pieces,
            over,
            dimensions,
            zero: Px(zero),
            ruler: full.then(|| ruler(zero, width)),
            full,
            title: title(source),
        }
    }

    /// Height of the row of balloons.
    pub(super) fn balloon_y(&self) -> Px {
        Px(self.height.0 - 146.0)
    }

    fn flag_y(&self) -> Px {
        Px(self.axis.0 + 12.0)
    }

    fn ruler_y(&self) -> Px {
        Px(self.height.0 - 60.0)
    }
}

fn pieces(source: &BenchSource<'_>, at: &impl Fn(f64) -> f64, axis: f64) -> Vec<DrawnPiece> {
    let mut drawn: Vec<DrawnPiece> = Vec::new();
    let bent = source.stack.bait_angle();
    for seat in &source.layout.seats {
        let piece = &source.stack.pieces[seat.piece];
        let mut place = Place::of(seat, at, axis);
        if (seat.to - seat.from).0 > LONG_PART.0 && matches!(piece.part.what(), What::Attractor(_))
        {
            place.from = place.to - LONG_PART.0 * TRUE_SIZE;
        }
        let stamped = piece
            .part
            .blade()
            .is_some_and(|blade| !blade.family.is_wing());
        let marks = if source.hanging && stamped {
            // A blade that does not turn hangs below the shaft, its tip down.
            let below = Place {
                axis: axis + 9e-3 * TRUE_SIZE,
                ..place
            };
            crescent(&piece.part, &below, -0.2)
        } else if let (What::Bait(_), Some(angle)) = (piece.part.what(), bent) {
            bent_bait(&place, angle)
        } else {
            side(&piece.part, &place)
        };
        let (left, right) = (place.from, place.to.max(place.from + 8.0));
        match drawn.last_mut().filter(|last| last.at == seat.piece) {
            Some(last) => {
                last.marks.extend(marks);
                last.width = Px(right - last.left.0);
                last.middle = Px(0.5 * (last.left.0 + right));
            }
            None => drawn.push(DrawnPiece {
                at: seat.piece,
                label: words::piece(piece),
                marks,
                selected: source.selected == Some(seat.piece),
                middle: Px(0.5 * (left + right)),
                left: Px(left),
                width: Px(right - left),
                grip: match piece.part.what() {
                    What::Blade(family) if !family.is_wing() => (Px(axis - 40.0), Px(22.0)),
                    What::Bait(_) => (Px(axis + 8.0), Px(32.0)),
                    _ => (Px(axis - 14.0), Px(28.0)),
                },
            }),
        }
    }
    for piece in &mut drawn {
        // A blade is taken by its clevis, a hook by its eye, a bait by its tail.
        match source.stack.pieces[piece.at].part.what() {
            What::Hook(_) => piece.middle = Px(piece.left.0 + 4.0),
            What::Bait(_) => piece.middle = Px(piece.left.0 + piece.width.0 - 12.0),
            What::Blade(_) => piece.middle = Px(piece.left.0 + 0.6 * piece.width.0),
            _ => {}
        }
    }
    // The bait lies under the hooks, the blade over the beads.
    drawn.sort_by_key(|piece| match source.stack.pieces[piece.at].part.what() {
        What::Bait(_) => 0,
        What::Dressing(_) => 1,
        What::Blade(_) => 4,
        What::Clevis(_) => 3,
        _ => 2,
    });
    drawn
}

/// The shaft or leader with what lies under the pieces, and what is tied over them.
fn lines(
    source: &BenchSource<'_>,
    axis_of: &Axis,
    axis: f64,
    blade: Option<&Seat>,
) -> (Vec<Mark>, Vec<Mark>) {
    let (stack, layout) = (source.stack, source.layout);
    let is_wire = stack.mount.is_wire();
    let class = if is_wire { "rig-wire" } else { "rig-line" };
    let plain = |path: Path, class: &str| Mark {
        path,
        class: class.to_owned(),
    };
    let hooks: Vec<&Seat> = layout
        .seats
        .iter()
        .filter(|seat| stack.pieces[seat.piece].part.hook().is_some())
        .collect();
    let build = &stack.build;
    let wire = stack.mount.diameter().0;
    let eye = (build.loop_diameter.0 + wire) * TRUE_SIZE;
    let line_to = hooks.last().map_or(layout.stack_to.0, |seat| seat.from.0);
    let mut under = Vec::new();
    if is_wire {
        // Two eyes with their wraps, the shaft between.
        let front = axis_of.at(0.0);
        let lower =
            axis_of.at(layout.stack_to.0 + 1e-3 + f64::from(build.wraps) * wire + 0.5 * wire);
        let twist = f64::from(build.wraps) * wire * TRUE_SIZE;
        let shaft = Path::through([(Px(front + eye), Px(axis)), (Px(lower), Px(axis))]);
        under.push(plain(shaft, class));
        for (x, wraps) in [(front, front + eye), (lower, lower - twist)] {
            under.push(plain(circle(x + 0.5 * eye, axis, 0.5 * eye), "rig-wire"));
            under.push(plain(snell(wraps, axis, twist), "wraps"));
        }
    } else if let Some(first) = axis_of.drawn.first() {
        let mut from = axis_of.at(0.0);
        for (place, stretch) in axis_of.drawn.iter().enumerate() {
            let last = place + 1 == axis_of.drawn.len();
            let begin = if stretch == first { from } else { stretch.2 };
            let end = if last {
                axis_of.at(line_to)
            } else {
                stretch.2 + (stretch.1 - stretch.0) * TRUE_SIZE
            };
            under.push(plain(
                Path::through([(Px(begin), Px(axis)), (Px(end), Px(axis))]),
                class,
            ));
            from = end;
        }
    }
    if let Some(seat) = blade.filter(|_| source.detail == Detail::Full) {
        let place = Place::of(seat, |x| axis_of.at(x), axis);
        under.extend(swept(&stack.pieces[seat.piece].part, &place));
    }
    let mut over: Vec<Mark> = axis_of
        .breaks()
        .into_iter()
        .map(|x| plain(break_mark(x, axis), "l-break"))
        .collect();
    if axis_of.drawn[0].2 > MARGIN + 1.0 {
        over.push(plain(
            break_mark(axis_of.drawn[0].2 - 0.3 * BREAK, axis),
            "l-break",
        ));
    }
    if !is_wire {
        for seat in &hooks {
            let eye = stack.pieces[seat.piece].part.diameter().0 * TRUE_SIZE;
            let length = f64::from(build.snell_wraps) * wire * TRUE_SIZE;
            let path = snell(axis_of.at(seat.from.0) + eye + 2.0, axis, length.max(8.0));
            over.push(plain(path, "snell"));
        }
    }
    (under, over)
}

/// A twin S across the line.
fn break_mark(x: f64, axis: f64) -> Path {
    let mut path = Path::default();
    for x in [x - 5.0, x + 5.0] {
        path.push('M', &[Px(x + 2.0), Px(axis - 15.0)]);
        path.push(
            'C',
            &[
                x - 5.0,
                axis - 5.0,
                x + 5.0,
                axis + 5.0,
                x - 2.0,
                axis + 15.0,
            ]
            .map(Px),
        );
    }
    path
}

fn blade_face(stack: &Stack, seat: &Seat, axis_of: &Axis, (y, axis): (f64, f64)) -> Face {
    let part = &stack.pieces[seat.piece].part;
    let length = part.length().0 * TRUE_SIZE;
    let from = face_from(part, seat, axis_of);
    let mut projections = Path::default();
    for x in [from, from + length] {
        projections.push('M', &[Px(x), Px(y + 6.0)]);
        projections.push('L', &[Px(x), Px(axis - 8.0)]);
    }
    Face {
        marks: face(part, from, y, TRUE_SIZE),
        code: part.finish.colour.key(),
        at: (Px(from + length + 14.0), Px(y + 5.0)),
        projections,
    }
}

/// Estimated width of a figure, px.
fn text_width(text: &str) -> f64 {
    7.4 * text.chars().count() as f64
}

impl Dimension {
    /// A level dimension between two places; its figure stands in a gap of the line where it fits,
    /// and beside short arrows where it does not.
    fn level(a: f64, b: f64, y: f64, from: (f64, f64), figure: String, rider: bool) -> Self {
        let (a, b) = if a <= b { (a, b) } else { (b, a) };
        let half = 0.5 * text_width(&figure) + 5.0;
        let middle = 0.5 * (a + b);
        let fits = b - a > 2.0 * half + 22.0;
        let lines = if fits {
            vec![(Px(middle - half), Px(a)), (Px(middle + half), Px(b))]
        } else {
            vec![(Px(a - 22.0), Px(a)), (Px(b + 22.0), Px(b))]
        };
        let mut extensions = Path::default();
        for (x, from) in [(a, from.0), (b, from.1)] {
            extensions.push('M', &[Px(x), Px(from)]);
            extensions.push('L', &[Px(x), Px(y + if y > from { 5.0 } else { -5.0 })]);
        }
        Self {
            lines,
            y: Px(y),
            upright: false,
            extensions,
            text: if fits {
                (Px(middle), Px(y + 4.5))
            } else {
                (Px(b + 27.0), Px(y + 4.5))
            },
            figure,
            anchor: if fits { "middle" } else { "start" },
            class: if rider { "rider" } else { "plain" },
        }
    }
}

impl Dimension {
    /// The same with a figure that does not fit between its arrows ahead of them, where another dimension follows behind.
    fn figure_ahead(mut self) -> Self {
        if self.anchor == "start" {
            let (tail, _) = self.lines[0];
            self.text.0 = Px(tail.0 - 5.0);
            self.anchor = "end";
            self.lines[1].0 = self.lines[1].1;
        }
        self
    }
}

fn dimensions(
    source: &BenchSource<'_>,
    axis_of: &Axis,
    axis: f64,
    (foot, face_y): (f64, f64),
    blade: Option<&Seat>,
) -> Vec<Dimension> {
    let mut all = Vec::new();
    if let Some(seat) = blade {
        let part = &source.stack.pieces[seat.piece].part;
        all.extend(blade_size(part, face_from(part, seat, axis_of), face_y));
        all.extend(tip_clearance(source, axis_of, axis, seat));
    }
    all.extend(lengths(source, axis_of, axis, foot + 62.0));
    all
}

/// Where the face of a blade begins on paper: its tip stands over the tip of the blade laid back.
fn face_from(part: &Part, seat: &Seat, axis_of: &Axis) -> f64 {
    let length = part.length().0 * TRUE_SIZE;
    if part.blade().is_some_and(|blade| blade.family.is_wing()) {
        axis_of.at(seat.from.0) - 0.5 * length
    } else {
        axis_of.at(seat.to.0) - length
    }
}

/// Length over the face, width beside it.
fn blade_size(part: &Part, from: f64, y: f64) -> [Dimension; 2] {
    let length = part.length().0 * TRUE_SIZE;
    let half = 0.5 * part.width().0 * TRUE_SIZE;
    let figure = format!("{} long", words::mm(part.length()));
    let long = Dimension::level(from, from + length, y - half - 20.0, (y, y), figure, false);
    let x = from - 22.0;
    let mut extensions = Path::default();
    for side in [y - half, y + half] {
        extensions.push('M', &[Px(from + 0.55 * length), Px(side)]);
        extensions.push('L', &[Px(x - 5.0), Px(side)]);
    }
    let wide = Dimension {
        lines: vec![(Px(y - 10.0), Px(y - half)), (Px(y + 9.0), Px(y + half))],
        y: Px(x),
        upright: true,
        extensions,
        text: (Px(x), Px(y + 4.5)),
        figure: words::mm(part.width()).replace(" mm", ""),
        anchor: "middle",
        class: "plain",
    };
    [long, wide]
}

/// From the blade's tip to the front hook's eye.
fn tip_clearance(
    source: &BenchSource<'_>,
    axis_of: &Axis,
    axis: f64,
    blade: &Seat,
) -> Option<Dimension> {
    let (stack, layout) = (source.stack, source.layout);
    if stack.build.spacing == Spacing::Cap {
        return None;
    }
    let (clearance, hook) = (layout.tip_clearance(stack)?, layout.front_hook(stack)?);
    let figure = if clearance.0 < 0.0 {
        format!("{} past", words::mm(-clearance))
    } else {
        format!("clear {}", words::mm(clearance))
    };
    let length = stack.pieces[blade.piece].part.length();
    let y = axis - 0.34 * length.0.min(0.04) * TRUE_SIZE - 26.0;
    let (tip, eye) = (axis_of.at(blade.to.0), axis_of.at(hook.from.0));
    Some(Dimension::level(
        tip,
        eye,
        y,
        (axis - 8.0, axis - 8.0),
        figure,
        false,
    ))
}

/// Stack, hooks, leader or whole length under the rig; the free wire above it.
fn lengths(source: &BenchSource<'_>, axis_of: &Axis, axis: f64, row: f64) -> Vec<Dimension> {
    let (stack, layout) = (source.stack, source.layout);
    let in_hand = |setting| source.in_hand == Some(setting);
    let below = |from: Metres, to: Metres, y: f64, figure: String, rider: bool| {
        let (from, to) = (axis_of.at(from.0), axis_of.at(to.0));
        Dimension::level(from, to, y, (axis + 8.0, axis + 8.0), figure, rider)
    };
    let hooks: Vec<&Seat> = layout
        .seats
        .iter()
        .filter(|seat| stack.pieces[seat.piece].part.hook().is_some())
        .collect();
    let mut all = Vec::new();
    if layout.stack_length().0 > 0.0 {
        let figure = format!("stack {}", words::mm(layout.stack_length()));
        let dimension = below(layout.stack_from, layout.stack_to, row, figure, false);
        all.push(if hooks.len() > 1 {
            dimension.figure_ahead()
        } else {
            dimension
        });
    }
    if let [front, next, ..] = hooks.as_slice() {
        let figure = words::both(stack.build.hook_spacing);
        all.push(below(
            front.from,
            next.from,
            row,
            figure,
            in_hand(Setting::HookSpacing),
        ));
    }
    if stack.mount.is_wire() {
        let figure = format!("{} over all", words::mm(layout.overall()));
        all.push(below(layout.start, layout.end, row + 30.0, figure, false));
        let build = &stack.build;
        let wraps = build.loop_diameter + (2.0 + f64::from(build.wraps)) * stack.mount.diameter();
        all.push(Dimension::level(
            axis_of.at(wraps.0),
            axis_of.at((wraps + build.clearance).0),
            axis - 40.0,
            (axis - 8.0, axis - 8.0),
            format!("{} free", words::mm(build.clearance)),
            in_hand(Setting::Clearance),
        ));
    } else {
        let figure = format!("leader {}", words::both(layout.straight));
        let rear = hooks.first().map_or(layout.stack_to, |seat| seat.from);
        all.push(below(
            Metres(0.0),
            rear,
            row + 30.0,
            figure,
            in_hand(Setting::Finished),
        ));
    }
    all
}

/// Balloons in a row under the rig, each as near to its part as its neighbours let it be.
fn balloons(source: &BenchSource<'_>, pieces: &[DrawnPiece]) -> Vec<Balloon> {
    if source.detail == Detail::Plain {
        return Vec::new();
    }
    let mut row: Vec<Balloon> = source
        .steps
        .iter()
        .enumerate()
        .filter_map(|(step, (piece, done))| {
            // Baiting takes several steps; the first stands for all.
            let goes_on = step.checked_sub(1).is_some_and(|before| {
                let bait = |at: usize| source.stack.pieces.get(at)?.part.bait();
                source.steps[before].0 == *piece && piece.and_then(bait).is_some()
            });
            if goes_on {
                return None;
            }
            let piece = pieces.iter().find(|drawn| Some(drawn.at) == *piece)?;
            Some(Balloon {
                x: piece.middle,
                from: piece.middle,
                number: step + 1,
                done: *done,
            })
        })
        .collect();
    row.sort_by(|a, b| a.from.0.total_cmp(&b.from.0));
    for place in 1..row.len() {
        let least = row[place - 1].x.0 + BALLOONS;
        if row[place].x.0 < least {
            row[place].x = Px(least);
        }
    }
    row
}

/// Grid lines every 10 mm, the fifth of each stronger.
fn grid(zero: f64, width: f64, height: f64) -> (Path, Path) {
    let step = 0.01 * TRUE_SIZE;
    let (mut fine, mut strong) = (Path::default(), Path::default());
    let first = -(zero / step).floor() as i64;
    for i in first..=((width - zero) / step) as i64 {
        let x = zero + step * i as f64;
        let path = if i % 5 == 0 { &mut strong } else { &mut fine };
        path.push('M', &[Px(x), Px(0.0)]);
        path.push('L', &[Px(x), Px(height)]);
    }
    for i in 1..=(height / step) as i64 {
        let y = height - step * i as f64;
        let path = if i % 5 == 0 { &mut strong } else { &mut fine };
        path.push('M', &[Px(0.0), Px(y)]);
        path.push('L', &[Px(width), Px(y)]);
    }
    (fine, strong)
}

fn ruler(zero: f64, width: f64) -> Ruler {
    let from = (zero - 40.0).max(0.0);
    let mm = MILLIMETRE.0 * TRUE_SIZE;
    let sixteenth = INCH.0 / 16.0 * TRUE_SIZE;
    let room = width - zero - 2.0;
    let millimetres = (0..=(room / mm) as usize)
        .map(|i| {
            let length = if i % 10 == 0 {
                13
            } else if i % 5 == 0 {
                9
            } else {
                6
            };
            let figure = if i % 10 == 0 {
                i.to_string()
            } else {
                String::new()
            };
            (Px(zero + mm * i as f64), length, figure)
        })
        .collect();
    let sixteenths = (0..=(room / sixteenth) as usize)
        .map(|i| {
            let length = match i % 16 {
                0 => 13,
                8 => 10,
                4 | 12 => 8,
                _ if i % 2 == 0 => 6,
                _ => 4,
            };
            let figure = if i % 16 == 0 {
                (i / 16).to_string()
            } else {
                String::new()
            };
            (Px(zero + sixteenth * i as f64), length, figure)
        })
        .collect();
    Ruler {
        from: Px(from),
        width: Px(width - from),
        millimetres,
        sixteenths,
    }
}

fn title(source: &BenchSource<'_>) -> String {
    let parts: Vec<String> = source.stack.pieces.iter().map(words::piece).collect();
    let parts = if parts.is_empty() {
        "nothing threaded yet".to_owned()
    } else {
        parts.join("; ")
    };
    format!("{} at true size: {parts}.", source.name)
}

#[cfg(test)]
mod tests {
    use super::*;
    use motilis_core::bench::starting;
    use motilis_core::fish::Fish;
    use motilis_core::rig::Kind;

    fn drawing(kind: Kind) -> (Stack, Layout, BenchDrawing) {
        let stack = starting(kind, Fish::Walleye, kind.usual_hook_size(), &[]).unwrap();
        let layout = Layout::new(&stack);
        let drawn = BenchDrawing::new(&BenchSource {
            stack: &stack,
            layout: &layout,
            name: "Test",
            detail: Detail::Full,
            selected: Some(1),
            flags: &[(1, Level::Fail)],
            steps: &[(Some(1), true), (None, false), (Some(2), false)],
            in_hand: Some(Setting::HookSpacing),
            hanging: false,
            least_width: 0.0,
        });
        (stack, layout, drawn)
    }

    #[test]
    fn every_kind_is_drawn_with_all_its_pieces() {
        for &kind in Kind::ALL {
            let (stack, _, drawn) = drawing(kind);
            assert_eq!(drawn.pieces.len(), stack.pieces.len(), "{kind:?}");
            let svg = drawn.render().unwrap();
            assert!(!svg.contains("NaN") && !svg.contains("inf"), "{kind:?}");
            assert!(
                drawn.width.0 < 1_100.0,
                "{kind:?} is {} px wide",
                drawn.width
            );
        }
    }

    #[test]
    fn the_stack_is_drawn_at_true_size() {
        let (_, layout, drawn) = drawing(Kind::CrawlerHarness);
        let stack = drawn
            .dimensions
            .iter()
            .find(|d| d.figure.starts_with("stack"))
            .unwrap();
        // Its outer arrows stand a stack's length apart: 96 px to the inch.
        let (a, b) = (stack.lines[0].1.0, stack.lines[1].1.0);
        let true_px = layout.stack_length().0 / 0.0254 * 96.0;
        assert!((b - a - true_px).abs() < 1e-6, "{a} {b} {true_px}");
        let ruler = drawn.ruler.unwrap();
        let hundred = ruler.millimetres[100].0.0 - ruler.millimetres[0].0.0;
        assert!((hundred - 377.952_755).abs() < 1e-3);
    }

    #[test]
    fn balloons_never_cover_each_other() {
        let (_, _, drawn) = drawing(Kind::SalmonWire);
        for pair in drawn.balloons.windows(2) {
            assert!(pair[1].x.0 - pair[0].x.0 >= BALLOONS - 1e-9);
        }
    }

    #[test]
    fn an_empty_board_is_drawn_too() {
        let stack = Stack::empty(
            Kind::CrawlerHarness,
            motilis_core::rig::Mount::leader(17).unwrap(),
        );
        let layout = Layout::new(&stack);
        let svg = BenchDrawing::new(&BenchSource {
            stack: &stack,
            layout: &layout,
            name: "Empty",
            detail: Detail::Full,
            selected: None,
            flags: &[],
            steps: &[],
            in_hand: None,
            hanging: false,
            least_width: 800.0,
        })
        .render()
        .unwrap();
        assert!(svg.contains("nothing threaded yet") && !svg.contains("NaN"));
    }
}
