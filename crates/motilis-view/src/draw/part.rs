//! Parts as they are drawn: outlines with classes, on an axis that runs to the right.

use super::blade::outline;
use super::kit::{Path, Px};
use motilis_core::bench::Seat;
use motilis_core::rig::{
    AttractorStyle, BodyShape, Colour, Dressing, HookStyle, Part, SwivelStyle, What,
};
use motilis_core::units::Radians;
use std::f64::consts::PI;

/// Pixels of CSS to the metre at true size.
pub const TRUE_SIZE: f64 = 96.0 / 25.4 * 1_000.0;

/// One line or surface of a part.
#[derive(Debug, Clone, PartialEq)]
pub struct Mark {
    /// Where.
    pub path: Path,
    /// How.
    pub class: String,
}

fn mark(path: Path, class: impl Into<String>) -> Mark {
    Mark {
        path,
        class: class.into(),
    }
}

/// Class of a surface in a colour; `night-red` dims it by night.
pub fn fill(colour: Colour) -> String {
    format!("part f-{} night-red", colour.key().to_lowercase())
}

fn stroke(colour: Colour) -> String {
    format!("skirt s-f-{} night-red", colour.key().to_lowercase())
}

/// A circle.
pub fn circle(x: f64, y: f64, r: f64) -> Path {
    let mut path = Path::default();
    path.push('M', &[Px(x - r), Px(y)]);
    for to in [x + r, x - r] {
        path.push('A', &[r, r, 0.0, 1.0, 1.0, to, y].map(Px));
    }
    path.closed()
}

fn line(points: &[(f64, f64)]) -> Path {
    Path::through(points.iter().map(|(x, y)| (Px(*x), Px(*y))))
}

/// A rounded bar from `from` to `to`, about the height `y`.
fn bar(from: f64, to: f64, y: f64, height: f64, round: f64) -> Path {
    let (h, r) = (0.5 * height, round.min(0.5 * height).min(0.5 * (to - from)));
    let mut path = Path::default();
    path.push('M', &[Px(from + r), Px(y - h)]);
    path.push('L', &[Px(to - r), Px(y - h)]);
    path.push('Q', &[to, y - h, to, y - h + r].map(Px));
    path.push('L', &[Px(to), Px(y + h - r)]);
    path.push('Q', &[to, y + h, to - r, y + h].map(Px));
    path.push('L', &[Px(from + r), Px(y + h)]);
    path.push('Q', &[from, y + h, from, y + h - r].map(Px));
    path.push('L', &[Px(from), Px(y - h + r)]);
    path.push('Q', &[from, y - h, from + r, y - h].map(Px));
    path.closed()
}

/// Where a part is drawn.
#[derive(Debug, Clone, Copy)]
pub struct Place {
    /// Front end, px.
    pub from: f64,
    /// Rear end, px.
    pub to: f64,
    /// Height of the shaft, px.
    pub axis: f64,
    /// Pixels a metre.
    pub scale: f64,
}

impl Place {
    /// The place of a seat on an axis at true size.
    pub fn of(seat: &Seat, at: impl Fn(f64) -> f64, axis: f64) -> Self {
        Self {
            from: at(seat.from.0),
            to: at(seat.to.0),
            axis,
            scale: TRUE_SIZE,
        }
    }

    fn middle(&self) -> f64 {
        0.5 * (self.from + self.to)
    }
}

/// A part seen from the side, threaded on the shaft.
pub fn side(part: &Part, place: &Place) -> Vec<Mark> {
    let colour = part.finish.colour;
    let Place {
        from,
        to,
        axis,
        scale,
    } = *place;
    let d = part.diameter().0 * scale;
    match part.what() {
        What::Blade(family) if family.is_wing() => wing(part, place),
        What::Blade(_) => crescent(part, place, 0.0),
        What::Clevis(_) => {
            let (x, reach) = (place.middle(), part.reach().0 * scale);
            let half = 0.5 * part.length().0 * scale;
            let mut path = Path::default();
            path.push('M', &[Px(x - half), Px(axis + 2.0)]);
            path.push('L', &[Px(x - half), Px(axis - reach + half)]);
            path.push(
                'A',
                &[half, half, 0.0, 0.0, 1.0, x + half, axis - reach + half].map(Px),
            );
            path.push('L', &[Px(x + half), Px(axis + 2.0)]);
            vec![mark(path, "clevis")]
        }
        What::Bead(_) => {
            let x = place.middle();
            let glint = line(&[
                (x - 0.30 * d, axis - 0.08 * d),
                (x - 0.12 * d, axis - 0.30 * d),
            ]);
            vec![
                mark(circle(x, axis, 0.5 * d), fill(colour)),
                mark(glint, "glint"),
                mark(line(&[(x - 0.5 * d, axis), (x + 0.5 * d, axis)]), "l-hid"),
            ]
        }
        What::Body(shape) => body(shape, part, place, d),
        What::Dressing(dressing) => dressed(dressing, part, place, d),
        What::Hook(style) => hook(style, part, place),
        What::Swivel(style) => swivel(style, place, d),
        What::Tubing => vec![mark(bar(from, to, axis, d, 2.0), "part film-2")],
        What::Attractor(style) => attractor(style, part, place),
        What::Rudder => {
            let depth = part.width().0 * scale;
            let fin = line(&[
                (from, axis),
                (to, axis),
                (to - 0.25 * (to - from), axis + depth),
            ]);
            vec![
                mark(fin.closed(), "part film-2"),
                mark(line(&[(from, axis), (to, axis)]), "l-out"),
            ]
        }
        What::Bait(_) => vec![mark(worm(from, to - from, axis, scale), "bait")],
        What::Line(_) | What::Wire => Vec::new(),
    }
}

/// A blade from the side, pulled straight back: a crescent as deep as its cup, hung above the shaft.
pub fn crescent(part: &Part, place: &Place, turn: f64) -> Vec<Mark> {
    let length = part.length().0 * place.scale;
    let depth = 0.17 * length;
    let (x, y) = (place.to - length, place.axis);
    let lift = 0.5 * part.width().0.min(8e-3) * place.scale;
    // Turned about its front end by an angle.
    let at = |dx: f64, dy: f64| {
        let (sin, cos) = turn.sin_cos();
        [
            Px(x + dx * cos + dy * sin),
            Px(y - lift - dx * sin + dy * cos),
        ]
    };
    let mut path = Path::default();
    path.push('M', &at(0.0, 0.0));
    let arc = |rise: f64| {
        let [a, b, c] = [
            at(0.28 * length, -rise),
            at(0.72 * length, -rise),
            at(length, 0.0),
        ];
        [a[0], a[1], b[0], b[1], c[0], c[1]]
    };
    path.push('C', &arc(1.25 * depth));
    let inner = 0.80 * depth;
    let [a, b, c] = [
        at(0.72 * length, -inner),
        at(0.28 * length, -inner),
        at(0.0, 0.0),
    ];
    path.push('C', &[a[0], a[1], b[0], b[1], c[0], c[1]]);
    vec![mark(path.closed(), fill(part.finish.colour))]
}

fn wing(part: &Part, place: &Place) -> Vec<Mark> {
    let half = 0.5 * part.length().0 * place.scale;
    let blade = part.blade().map_or(0.6, |blade| blade.cone_angle().0);
    // Both lobes lie back at the cone angle.
    let (dx, dy) = (half * blade.cos(), half * blade.sin());
    let x = place.from;
    let lobe = |side: f64| {
        let mut path = Path::default();
        path.push('M', &[Px(x), Px(place.axis)]);
        path.push(
            'Q',
            &[
                x + 0.35 * dx,
                place.axis + side * 0.75 * dy,
                x + dx,
                place.axis + side * dy,
            ]
            .map(Px),
        );
        path.push(
            'Q',
            &[x + 0.6 * dx, place.axis + side * 0.55 * dy, x, place.axis].map(Px),
        );
        mark(path.closed(), fill(part.finish.colour))
    };
    vec![
        lobe(-1.0),
        lobe(1.0),
        mark(circle(x, place.axis, 2.2), "part"),
    ]
}

/// What is painted over a finish of several.
fn pattern(colour: Colour) -> Option<&'static str> {
    Some(match colour {
        Colour::GoldScale | Colour::SilverScale => "scales",
        Colour::Perch => "bars-dark",
        Colour::Tiger => "bars",
        Colour::Rainbow => "spots",
        Colour::WhiteRed => "half",
        _ => return None,
    })
}

/// What lies over a face: lacquer on all of it, or spots that cover its share.
fn lying_over(
    part: &Part,
    blade: &motilis_core::blade::Blade,
    contour: Path,
    (from, y): (f64, f64),
    scale: f64,
) -> Vec<Mark> {
    let Some(over) = part.finish.over else {
        return Vec::new();
    };
    let class = fill(over.colour);
    let Some(share) = over.share else {
        return vec![mark(contour, format!("{class} lacquer"))];
    };
    let (length, width) = (blade.length.0 * scale, blade.width.0 * scale);
    let area = 0.7 * length * width * f64::from(share) / 100.0;
    let radius = (area / (3.0 * std::f64::consts::PI))
        .sqrt()
        .min(0.42 * width);
    [0.28, 0.52, 0.76]
        .map(|along| mark(circle(from + along * length, y, radius), class.clone()))
        .into()
}

/// The face of a blade with its hole end at `from`, its long axis along x at a height.
pub fn face(part: &Part, from: f64, y: f64, scale: f64) -> Vec<Mark> {
    let Some(blade) = part.blade() else {
        return Vec::new();
    };
    let drawn = outline(&blade, scale);
    let contour = drawn.at(from, y);
    let mut marks = vec![mark(contour.clone(), fill(part.finish.colour))];
    if part.finish.hammered {
        marks.push(mark(contour.clone(), "hammered"));
    } else if let Some(over) = pattern(part.finish.colour) {
        marks.push(mark(contour.clone(), over));
    }
    marks.extend(lying_over(part, &blade, contour, (from, y), scale));
    let hole = circle(from + drawn.hole.0, y + drawn.hole.1, 0.9e-3 * scale);
    marks.push(mark(hole, "part"));
    marks
}

fn body(shape: BodyShape, part: &Part, place: &Place, d: f64) -> Vec<Mark> {
    let Place { from, to, axis, .. } = *place;
    let class = fill(part.finish.colour);
    let path = match shape {
        BodyShape::Torpedo => {
            let (length, h) = (to - from, 0.5 * d);
            let mut path = Path::default();
            path.push('M', &[Px(from), Px(axis - 0.5 * h)]);
            path.push(
                'C',
                &[
                    from + 0.25 * length,
                    axis - 1.15 * h,
                    from + 0.6 * length,
                    axis - 1.1 * h,
                    to,
                    axis - 0.3 * h,
                ]
                .map(Px),
            );
            path.push('L', &[Px(to), Px(axis + 0.3 * h)]);
            path.push(
                'C',
                &[
                    from + 0.6 * length,
                    axis + 1.1 * h,
                    from + 0.25 * length,
                    axis + 1.15 * h,
                    from,
                    axis + 0.5 * h,
                ]
                .map(Px),
            );
            path.closed()
        }
        BodyShape::Bell => {
            let h = 0.5 * d;
            let mut path = Path::default();
            path.push('M', &[Px(from), Px(axis - 0.35 * h)]);
            path.push(
                'Q',
                &[0.5 * (from + to), axis - 1.1 * h, to, axis - h].map(Px),
            );
            path.push('L', &[Px(to), Px(axis + h)]);
            path.push(
                'Q',
                &[0.5 * (from + to), axis + 1.1 * h, from, axis + 0.35 * h].map(Px),
            );
            path.closed()
        }
        BodyShape::Ring => bar(from, to, axis, d, 2.0),
        BodyShape::TailWeight => bar(from, to, axis, d, d),
    };
    vec![mark(path, class)]
}

fn dressed(dressing: Dressing, part: &Part, place: &Place, d: f64) -> Vec<Mark> {
    let Place {
        from,
        to,
        axis,
        scale,
    } = *place;
    let colour = part.finish.colour;
    if dressing.is_skirt() {
        let collar = part.threaded().0 * scale;
        let strands = (-3..=3).map(|strand| {
            let side = f64::from(strand);
            let mut path = Path::default();
            path.push('M', &[Px(from + collar), Px(axis + 0.16 * d * side)]);
            path.push(
                'Q',
                &[
                    0.5 * (from + to),
                    axis + 0.5 * d * side,
                    to - 2.0 * side.abs(),
                    axis + 0.36 * d * side,
                ]
                .map(Px),
            );
            mark(path, stroke(colour))
        });
        let mut marks: Vec<Mark> = strands.collect();
        marks.push(mark(bar(from, from + collar, axis, d, d), fill(colour)));
        return marks;
    }
    let path = match dressing {
        Dressing::BaitHeadCap => {
            let h = 0.5 * d;
            line(&[
                (from, axis - 0.3 * h),
                (to, axis - h),
                (to, axis + h),
                (from, axis + 0.3 * h),
            ])
            .closed()
        }
        _ => bar(from, to, axis, d, 0.45 * d),
    };
    vec![mark(path, fill(colour))]
}

/// Eye, shank, bend, point and barb of a hook seen from the side; a treble shows two of its bends.
fn hook(style: HookStyle, part: &Part, place: &Place) -> Vec<Mark> {
    let Place {
        from,
        to,
        axis,
        scale,
    } = *place;
    let eye = part.diameter().0 * scale;
    let gap = part.width().0 * scale;
    let bend = |side: f64| {
        let lower = axis + side * gap;
        let round = to - 0.55 * gap;
        let mut path = Path::default();
        path.push('M', &[Px(from + eye), Px(axis)]);
        if style == HookStyle::BentShank {
            let hump = from + 0.4 * (to - from);
            path.push('L', &[Px(hump), Px(axis - side * 0.22 * gap)]);
        }
        path.push('L', &[Px(round), Px(axis)]);
        path.push(
            'C',
            &[to + 0.18 * gap, axis, to + 0.18 * gap, lower, round, lower].map(Px),
        );
        path.push(
            'L',
            &[Px(round - 0.55 * gap), Px(lower - side * 0.10 * gap)],
        );
        path.push(
            'L',
            &[Px(round - 0.30 * gap), Px(lower - side * 0.28 * gap)],
        );
        mark(path, "hook")
    };
    let mut marks = vec![bend(1.0)];
    if style == HookStyle::Treble {
        marks.push(bend(-1.0));
    }
    marks.push(mark(
        circle(from + 0.5 * eye, axis, 0.5 * eye - 0.8),
        "hook-eye",
    ));
    marks
}

/// Seven slanted wraps of line on a shank.
pub fn snell(from: f64, axis: f64, length: f64) -> Path {
    let mut path = Path::default();
    for wrap in 0..7 {
        let x = from + length * (f64::from(wrap) + 0.5) / 7.0;
        path.push('M', &[Px(x - 1.2), Px(axis + 3.2)]);
        path.push('L', &[Px(x + 1.2), Px(axis - 3.2)]);
    }
    path
}

fn swivel(style: SwivelStyle, place: &Place, ring: f64) -> Vec<Mark> {
    let Place { from, to, axis, .. } = *place;
    let r = 0.5 * ring;
    let barrel = bar(from + 1.6 * r, to - 1.6 * r, axis, 1.5 * ring, 3.0);
    let rings = [circle(from + r, axis, r), circle(to - r, axis, r)];
    match style {
        SwivelStyle::Snap => {
            vec![mark(bar(from, to, axis, 1.4 * ring, 0.7 * ring), "l-out")]
        }
        SwivelStyle::SnapSwivel => {
            let half = 0.5 * (from + to);
            vec![
                mark(bar(half - r, to, axis, 1.4 * ring, 0.7 * ring), "l-out"),
                mark(circle(from + r, axis, r), "part"),
                mark(
                    bar(from + 1.6 * r, half, axis, 1.5 * ring, 3.0),
                    "part f-ni night-red",
                ),
            ]
        }
        SwivelStyle::SplitRing => {
            let middle = 0.5 * (from + to);
            let whole = 0.5 * (to - from);
            vec![
                mark(circle(middle, axis, whole), "l-out"),
                mark(circle(middle, axis, 0.82 * whole), "l-out"),
            ]
        }
        SwivelStyle::Clip => vec![
            mark(bar(from, to, axis, 1.1 * ring, 0.55 * ring), "l-out"),
            mark(
                bar(0.5 * (from + to), to, axis, 0.5 * ring, 0.25 * ring),
                "l-out",
            ),
        ],
        SwivelStyle::Snubber => vec![
            mark(bar(from, to, axis, ring, 0.5 * ring), "part film-2"),
            mark(circle(from + r, axis, r), "l-out"),
            mark(circle(to - r, axis, r), "l-out"),
        ],
        SwivelStyle::Barrel | SwivelStyle::BallBearing => {
            let mut marks: Vec<Mark> = rings.map(|ring| mark(ring, "part")).into();
            marks.push(mark(barrel, "part f-ni night-red"));
            if style == SwivelStyle::BallBearing {
                marks.push(mark(
                    circle(place.middle(), axis, 0.45 * ring),
                    "part film-2",
                ));
            }
            marks
        }
    }
}

fn attractor(style: AttractorStyle, part: &Part, place: &Place) -> Vec<Mark> {
    let Place {
        from,
        to,
        axis,
        scale,
    } = *place;
    let class = fill(part.finish.colour);
    let height = part.width().0.min(0.05) * scale;
    if style == AttractorStyle::BladeString {
        let count = 4;
        let step = (to - from) / f64::from(count);
        return (0..count)
            .map(|i| {
                let x = from + step * f64::from(i);
                mark(
                    bar(
                        x + 2.0,
                        x + step - 4.0,
                        axis - 0.2 * height,
                        0.4 * height,
                        0.2 * height,
                    ),
                    class.clone(),
                )
            })
            .collect();
    }
    // An S-bent leaf.
    let (w, h) = (to - from, 0.28 * height);
    let mut path = Path::default();
    path.push('M', &[Px(from), Px(axis)]);
    path.push(
        'C',
        &[
            from + 0.3 * w,
            axis - 2.2 * h,
            from + 0.6 * w,
            axis - 0.4 * h,
            to,
            axis - h,
        ]
        .map(Px),
    );
    path.push('L', &[Px(to), Px(axis + h)]);
    path.push(
        'C',
        &[
            from + 0.7 * w,
            axis + 2.2 * h,
            from + 0.35 * w,
            axis + 0.2 * h,
            from,
            axis,
        ]
        .map(Px),
    );
    vec![mark(path.closed(), class)]
}

/// The outline of a bait that hangs on the hooks.
/// A bait that its hook bends: half of it along the line, half out of it, and dashed where that half is half a turn on.
pub fn bent_bait(place: &Place, angle: Radians) -> Vec<Mark> {
    let Place {
        from,
        to,
        axis,
        scale,
    } = *place;
    let half = 2.6e-3 * scale;
    let (middle, length) = (0.5 * (from + to), to - from);
    let out = 0.5 * length * angle.0.sin();
    let tip = middle + 0.5 * length * angle.0.cos();
    let limb = |way: f64| {
        let mut path = Path::default();
        path.push('M', &[Px(from), Px(axis - half)]);
        path.push('L', &[Px(middle), Px(axis - half)]);
        let curve = |path: &mut Path, side: f64| {
            let ends = [
                middle + 0.2 * length,
                axis + side * half,
                tip,
                axis + way * out + side * half,
            ];
            path.push('Q', &ends.map(Px));
        };
        curve(&mut path, -1.0);
        path.push('L', &[Px(tip), Px(axis + way * out + half)]);
        let back = [middle + 0.2 * length, axis + half, middle, axis + half];
        path.push('Q', &back.map(Px));
        path.push('L', &[Px(from), Px(axis + half)]);
        path.closed()
    };
    vec![mark(limb(-1.0), "l-dash"), mark(limb(1.0), "bait")]
}

fn worm(x: f64, length: f64, axis: f64, scale: f64) -> Path {
    let half = 2.6e-3 * scale;
    let y = axis + 5.5e-3 * scale;
    let mut path = Path::default();
    path.push('M', &[Px(x), Px(y)]);
    path.push(
        'C',
        &[
            x + 0.3 * length,
            y - 2.0 * half,
            x + 0.7 * length,
            y,
            x + length,
            y + half,
        ]
        .map(Px),
    );
    path.push(
        'C',
        &[
            x + 0.7 * length,
            y + 2.4 * half,
            x + 0.3 * length,
            y + half,
            x,
            y,
        ]
        .map(Px),
    );
    path.closed()
}

/// A part lying by itself, as a tray shows it: its marks and the size of its drawing, px.
#[derive(Debug, Clone)]
pub struct Lying {
    /// Its lines and surfaces.
    pub marks: Vec<Mark>,
    /// Width and height of the drawing.
    pub size: (Px, Px),
    /// Its outline alone, for the shadow of a part that is out.
    pub shadow: Path,
}

/// Draws a part lying by itself at a scale, with room around it.
pub fn lying(part: &Part, scale: f64) -> Lying {
    let margin = 4.0;
    if let Some(blade) = part.blade() {
        let (length, width) = (blade.length.0 * scale, blade.width.0 * scale);
        let y = 0.5 * width + margin;
        let marks = face(part, margin, y, scale);
        let shadow = marks
            .first()
            .map(|mark| mark.path.clone())
            .unwrap_or_default();
        return Lying {
            marks,
            size: (Px(length + 2.0 * margin), Px(width + 2.0 * margin)),
            shadow,
        };
    }
    let length = part.length().0 * scale;
    let (above, below) = reach(part, scale);
    let place = Place {
        from: margin,
        to: margin + length,
        axis: margin + above,
        scale,
    };
    let mut marks = side(part, &place);
    if marks.is_empty() {
        return spool(part);
    }
    let shadow = match marks.first() {
        Some(first) if !first.class.starts_with("hook") => first.path.clone(),
        _ => bar(place.from, place.to, place.axis, 3.0, 1.5),
    };
    marks.retain(|mark| mark.class != "l-hid");
    Lying {
        marks,
        size: (
            Px(length + 2.0 * margin + 3.0),
            Px(above + below + 2.0 * margin),
        ),
        shadow,
    }
}

/// How far a part reaches above and below its axis.
fn reach(part: &Part, scale: f64) -> (f64, f64) {
    let half = 0.5 * part.diameter().0 * scale;
    match part.what() {
        What::Hook(HookStyle::Treble) => {
            (part.width().0 * scale + 2.0, part.width().0 * scale + 2.0)
        }
        What::Hook(HookStyle::BentShank) => (
            0.3 * part.width().0 * scale + 3.0,
            part.width().0 * scale + 2.0,
        ),
        What::Hook(_) => (half.max(3.0), part.width().0 * scale + 2.0),
        What::Clevis(_) => (part.reach().0 * scale + 2.0, 4.0),
        What::Rudder => (3.0, part.width().0 * scale + 2.0),
        What::Attractor(_) => {
            let half = 0.4 * part.width().0.min(0.05) * scale;
            (half + 8.0, half + 8.0)
        }
        What::Swivel(_) => (
            0.8 * part.diameter().0 * scale + 2.0,
            0.8 * part.diameter().0 * scale + 2.0,
        ),
        What::Bait(_) => (6.0, 12e-3 * scale),
        _ => (half + 1.0, half + 1.0),
    }
}

/// A spool of line or wire.
fn spool(part: &Part) -> Lying {
    let class = if part.what() == What::Wire {
        "spool-wire"
    } else {
        "spool-line"
    };
    let rings = [17.0, 14.5, 12.0, 9.5].map(|r| mark(circle(22.0, 22.0, r), class));
    let mut marks = vec![mark(circle(22.0, 22.0, 20.0), "part film-2")];
    marks.extend(rings);
    marks.push(mark(circle(22.0, 22.0, 5.0), "part"));
    Lying {
        marks,
        size: (Px(44.0), Px(44.0)),
        shadow: circle(22.0, 22.0, 20.0),
    }
}

/// The circle a blade's tip sweeps, as the arc its front edge draws from the side: the blade turned
/// out at its cone angle.
pub fn swept(part: &Part, place: &Place) -> Vec<Mark> {
    let Some(blade) = part.blade().filter(|blade| !blade.family.is_wing()) else {
        return Vec::new();
    };
    crescent(part, place, blade.cone_angle().0.min(0.5 * PI))
        .into_iter()
        .map(|drawn| mark(drawn.path, "l-phantom"))
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use motilis_core::rig::BARE;

    #[test]
    fn every_kind_of_part_can_be_drawn_in_every_size() {
        for what in What::all() {
            for size in what.sizes() {
                let part = Part::new(what, size, BARE).unwrap();
                let drawn = lying(&part, TRUE_SIZE);
                assert!(!drawn.marks.is_empty(), "{what:?} {size}");
                for mark in &drawn.marks {
                    let text = mark.path.to_string();
                    assert!(
                        !text.contains("NaN") && !text.contains("inf"),
                        "{what:?} {size}: {text}"
                    );
                }
                assert!(
                    drawn.size.0.0 > 8.0 && drawn.size.1.0 > 8.0,
                    "{what:?} {size}"
                );
            }
        }
    }

    #[test]
    fn a_bead_is_drawn_as_wide_as_it_is() {
        let bead = Part::new(What::Bead(motilis_core::rig::BeadStyle::Round), 6.0, BARE).unwrap();
        let place = Place {
            from: 0.0,
            to: bead.length().0 * TRUE_SIZE,
            axis: 50.0,
            scale: TRUE_SIZE,
        };
        // 6 mm are 22.68 px.
        assert!(
            side(&bead, &place)[0]
                .path
                .to_string()
                .starts_with("M0 50A11.3 11.3")
        );
        assert!((place.to - 22.677).abs() < 1e-3);
    }
}
