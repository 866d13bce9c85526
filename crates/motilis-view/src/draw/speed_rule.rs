use super::kit::{Px, Scale, Tick};
use crate::units::{Quantity, System};
use askama::Template;
use motilis_core::blade::Window;
use motilis_core::units::MetresPerSecond;

/// Width of a rule and of the bars under it.
const WIDTH: f64 = 300.0;
/// Margins in which the end figures find room.
const MARGIN: f64 = 14.0;

/// The boxwood rule of speeds with the rider at the speed of now.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/speed_rule.svg")]
pub struct SpeedRule {
    scale: Scale,
    majors: Vec<Tick>,
    minors: Vec<Px>,
    rider: Px,
    now: String,
    unit: &'static str,
    /// Text equivalent.
    title: String,
}

/// A rig's usable speeds on that rule.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/speed_bar.svg")]
pub struct SpeedBar {
    x: Px,
    width: Px,
    ends: [EndFigure; 2],
    /// `fine`, or `short` when the speed lies below or above.
    class: &'static str,
    hatch: Option<(Px, Px)>,
    rider: Px,
    title: String,
}

/// The figure at an end of a bar: outside it, or inside where the outside is taken.
#[derive(Debug, Clone, PartialEq)]
struct EndFigure {
    text: String,
    x: Px,
    anchor: &'static str,
    inside: bool,
}

impl EndFigure {
    /// The figure at the left end.
    fn left(text: String, x: f64, inside: bool) -> Self {
        let (x, anchor) = if inside {
            (x + 5.0, "start")
        } else {
            (x - 5.0, "end")
        };
        Self {
            text,
            x: Px(x),
            anchor,
            inside,
        }
    }

    /// The figure at the right end.
    fn right(text: String, x: f64, inside: bool) -> Self {
        let (x, anchor) = if inside {
            (x - 5.0, "end")
        } else {
            (x + 5.0, "start")
        };
        Self {
            text,
            x: Px(x),
            anchor,
            inside,
        }
    }
}

impl SpeedRule {
    /// A rule that holds trolling speeds and the speed of now.
    pub fn new(now: MetresPerSecond, system: System) -> Self {
        let unit = Quantity::Speed.unit(system);
        let usual: f64 = match system {
            System::Imperial => 3.2,
            System::Metric => 5.0,
        };
        let most = usual.max((unit.from_si(now.0) * 1.1 * 2.0).ceil() / 2.0);
        let domain = (0.0, unit.to_si(most));
        let scale = Scale::new(domain, (MARGIN, WIDTH - MARGIN));
        let step = if most > 6.0 { 2.0 } else { 1.0 };
        let majors = super::kit::ticks(0.0, most, 12)
            .into_iter()
            .filter(|figure| (figure % step).abs() < 1e-9)
            .map(|figure| Tick {
                at: scale.at(unit.to_si(figure)),
                label: format!("{figure:.0}"),
            })
            .collect();
        let tenths = (most * 10.0).round() as usize;
        let every = if tenths > 60 { 5 } else { 1 };
        let shown = system.speed(now);
        Self {
            majors,
            minors: (0..=tenths)
                .step_by(every)
                .map(|tenth| scale.at(unit.to_si(tenth as f64 / 10.0)))
                .collect(),
            rider: scale.at(now.0),
            title: format!("Speeds from 0 to {most} {}; now {shown}.", unit.symbol),
            now: shown.value,
            unit: unit.symbol,
            scale,
        }
    }

    /// The bar of a window under this rule.
    pub fn bar(&self, window: Window, now: MetresPerSecond, system: System) -> SpeedBar {
        let end = WIDTH - MARGIN;
        let x = self.scale.at(window.from.0).0.min(end);
        let right = window
            .to
            .map_or(end, |to| self.scale.at(to.0).0.min(end))
            .max(x + 2.0);
        let figure = |speed: MetresPerSecond| system.speed(speed).value;
        let rider = self.scale.at(now.0).0;
        let hatch = if rider < x {
            Some((Px(rider), Px(x - rider)))
        } else if rider > right {
            Some((Px(right), Px(rider - right)))
        } else {
            None
        };
        let to = window.to.map(figure).unwrap_or_default();
        let title = if to.is_empty() {
            format!("Usable from {} {}", figure(window.from), self.unit)
        } else {
            format!("Usable from {} to {to} {}", figure(window.from), self.unit)
        };
        // A figure goes inside where the hatching or the paper's edge takes its place.
        let roomy = right - x > 34.0;
        let stalled = rider < x;
        let rolled = rider > right;
        SpeedBar {
            x: Px(x),
            width: Px(right - x),
            ends: [
                EndFigure::left(figure(window.from), x, stalled && roomy),
                EndFigure::right(to, right, roomy && (rolled || right > WIDTH - 30.0)),
            ],
            class: if hatch.is_none() { "fine" } else { "short" },
            hatch,
            rider: Px(rider),
            title,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use motilis_core::units::MILE_PER_HOUR;

    fn window(from: f64, to: f64) -> Window {
        Window {
            from: from * MILE_PER_HOUR,
            to: Some(to * MILE_PER_HOUR),
        }
    }

    #[test]
    fn a_bar_hatches_the_way_from_its_end_to_the_rider() {
        let now = 1.2 * MILE_PER_HOUR;
        let rule = SpeedRule::new(now, System::Imperial);
        let bar = |from, to| rule.bar(window(from, to), now, System::Imperial);
        assert_eq!((bar(1.0, 1.9).class, bar(1.0, 1.9).hatch), ("fine", None));
        assert_eq!(bar(1.5, 2.5).class, "short");
        assert!(bar(1.5, 2.5).hatch.unwrap().0 < bar(1.5, 2.5).x);
        assert!(bar(0.3, 0.9).hatch.unwrap().0 > bar(0.3, 0.9).x);
    }

    #[test]
    fn the_rule_grows_with_a_fast_boat() {
        for mph in [0.0, 1.2, 9.9] {
            let rule = SpeedRule::new(mph * MILE_PER_HOUR, System::Imperial);
            assert!((MARGIN..=WIDTH - MARGIN).contains(&rule.rider.0), "{mph}");
        }
    }

    #[test]
    fn a_window_beyond_the_rule_stays_on_the_paper() {
        let now = 1.2 * MILE_PER_HOUR;
        let rule = SpeedRule::new(now, System::Metric);
        let bar = rule.bar(window(20.0, 30.0), now, System::Metric);
        assert!(bar.x.0 + bar.width.0 <= WIDTH - MARGIN + 2.0);
    }
}
