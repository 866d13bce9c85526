use crate::error::{Error, Range};
use crate::units::{Metres, Newtons, NewtonsPerMetre, SquareMetres};

/// Strumming factor of a taut fishing line before the angler has calibrated it; fitted to practice (CP-07, CP-09).
pub const STRUM: f64 = 1.3;
/// Tangential friction coefficient of a line (Hoerner 1965, from memory).
const TANGENTIAL: f64 = 0.02;
/// Reynolds number below which the fit of Sucker & Brauer is held.
const LEAST_CYLINDER: f64 = 1e-4;
/// Reynolds number below which White's fit is held.
const LEAST_REYNOLDS: f64 = 1e-3;

const WEIGHT: Range = Range::closed(-1_000.0, 10_000.0, "N", "between -1 000 and 10 000 N");
const AREA: Range = Range::closed(0.0, 10.0, "m²", "between 0 and 10 m²");
const LENGTH: Range = Range::closed(0.0, 3_000.0, "m", "between 0 and 3 000 m");
const DIAMETER: Range = Range::above(0.0, 0.05, "m", "above 0 and at most 0.05 m");
const LINEAR: Range = Range::closed(-10.0, 100.0, "N/m", "between -10 and 100 N/m");
const NORMAL: Range = Range::closed(
    0.0,
    10.0,
    "",
    "\"sucker_brauer\", \"reynolds\" or a number between 0 and 10",
);
const TANGENT: Range = Range::closed(0.0, 1.0, "", "between 0 and 1");
const STRUMMING: Range = Range::above(0.0, 10.0, "", "above 0 and at most 10");

/// Reynolds number up to which a line sheds no vortices, and over how many more it comes to strum wholly.
const SHEDS_FROM: f64 = 40.0;
const SHEDS_WITHIN: f64 = 20.0;

/// The law for the drag across the line.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum NormalDrag {
    /// `C_n = 1.18 + 6.8 Re^(−0.89) + 1.96 Re^(−1/2) − 0.0004 Re / (1 + 3.64·10⁻⁷ Re²)`, a smooth cylinder from
    /// 10⁻⁴ to 2·10⁵ (Sucker & Brauer 1975, *Wärme- und Stoffübertragung* 8:149, from memory). With it a line
    /// strums only where it sheds vortices: not below Re 40, wholly from Re 60.
    SuckerBrauer,
    /// `C_n = 1 + 10 Re^(−2/3)`, the smooth-cylinder fit of White, good for 1 < Re < 2·10⁵.
    Reynolds,
    /// The same coefficient whatever the speed.
    Constant(f64),
}

impl NormalDrag {
    /// The coefficient at a Reynolds number formed with the diameter and the normal velocity, and how it changes with
    /// the number's logarithm.
    fn coefficient(self, reynolds: f64) -> (f64, f64) {
        match self {
            Self::Constant(c_n) => (c_n, 0.0),
            Self::SuckerBrauer => {
                let re = reynolds.max(LEAST_CYLINDER);
                let (slow, layer) = (6.8 * re.powf(-0.89), 1.96 / re.sqrt());
                let damped = 1.0 + 3.64e-7 * re * re;
                let fast = 4e-4 * re / damped;
                let slope = -0.89 * slow - 0.5 * layer - fast * (2.0 / damped - 1.0);
                (1.18 + slow + layer - fast, slope)
            }
            Self::Reynolds => {
                let root = reynolds.max(LEAST_REYNOLDS).cbrt();
                let layer = 10.0 / (root * root);
                (1.0 + layer, -2.0 / 3.0 * layer)
            }
        }
    }
}

/// How the water holds the line.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct LineDrag {
    /// Across the line.
    pub normal: NormalDrag,
    /// Along it, `C_t`.
    pub tangential: f64,
    /// `K`, what strumming does to the drag across.
    pub strum: f64,
    /// What else the drag across is multiplied by: 1, or what a line's own bottom touches teach.
    pub held: f64,
}

impl Default for LineDrag {
    fn default() -> Self {
        Self {
            normal: NormalDrag::SuckerBrauer,
            tangential: TANGENTIAL,
            strum: STRUM,
            held: 1.0,
        }
    }
}

impl LineDrag {
    /// `K C_n` (with what was learned), what the drag across the line is multiplied by, at a Reynolds number formed with the diameter and the
    /// normal velocity, and the power of the speed by which that changes.
    pub fn across(&self, reynolds: f64) -> (f64, f64) {
        let (c_n, slope) = self.normal.coefficient(reynolds);
        let (strum, rising) = match self.normal {
            NormalDrag::SuckerBrauer => {
                let shed = (reynolds - SHEDS_FROM) / SHEDS_WITHIN;
                let rising = if (0.0..1.0).contains(&shed) {
                    reynolds / SHEDS_WITHIN
                } else {
                    0.0
                };
                let more = self.strum - 1.0;
                (1.0 + more * shed.clamp(0.0, 1.0), more * rising)
            }
            NormalDrag::Reynolds | NormalDrag::Constant(_) => (self.strum, 0.0),
        };
        // A coefficient of nothing is nothing at any speed.
        let power = if c_n > 0.0 {
            slope / c_n + rising / strum
        } else {
            0.0
        };
        (self.held * strum * c_n, power)
    }

    pub(super) fn check(&self) -> Result<(), Error> {
        if let NormalDrag::Constant(c_n) = self.normal {
            NORMAL.check("drag.normal", c_n)?;
        }
        TANGENT.check("drag.tangential", self.tangential)?;
        STRUMMING.check("drag.strum", self.strum)?;
        Ok(())
    }
}

/// Something small on the line: a rig, a weight, a diver.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct PointLoad {
    /// Weight under water; negative when it floats.
    pub submerged_weight: Newtons,
    /// Drag coefficient times area.
    pub drag_area: SquareMetres,
    /// Down-force coefficient times area, of divers and diving plugs.
    pub down_area: SquareMetres,
}

impl PointLoad {
    pub(super) fn check(&self, name: &str) -> Result<(), Error> {
        let field = |suffix: &str| format!("{name}.{suffix}");
        WEIGHT.check(&field("submerged_weight_n"), self.submerged_weight.0)?;
        AREA.check(&field("drag_area_m2"), self.drag_area.0)?;
        AREA.check(&field("down_area_m2"), self.down_area.0)?;
        Ok(())
    }

    /// Horizontal and vertical force at a dynamic pressure `q`, N: backwards and downwards.
    pub(super) fn forces(&self, q: f64) -> [f64; 2] {
        [
            q * self.drag_area.0,
            self.submerged_weight.0 + q * self.down_area.0,
        ]
    }
}

/// A piece of line of one kind, with what hangs at its upper end.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Segment {
    /// Its length in the water.
    pub length: Metres,
    /// Its diameter.
    pub diameter: Metres,
    /// Its weight under water per metre; negative for line that floats.
    pub submerged_weight: NewtonsPerMetre,
    /// The load at its upper end.
    pub node: Option<PointLoad>,
}

impl Segment {
    pub(super) fn check(&self, place: usize) -> Result<(), Error> {
        let name = format!("segments[{place}]");
        let field = |suffix: &str| format!("{name}.{suffix}");
        LENGTH.check(&field("length_m"), self.length.0)?;
        DIAMETER.check(&field("diameter_m"), self.diameter.0)?;
        LINEAR.check(&field("submerged_weight_n_per_m"), self.submerged_weight.0)?;
        if let Some(node) = self.node {
            node.check(&field("node"))?;
        }
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;
    use rstest::rstest;

    // The formula of White worked by hand: 1 + 10 / Re^(2/3).
    #[rstest]
    #[case(1.0, 11.0)]
    #[case(8.0, 3.5)]
    #[case(27.0, 1.0 + 10.0 / 9.0)]
    #[case(1_000.0, 1.1)]
    #[case::held_below_a_thousandth(0.0, 1_001.0)]
    fn a_thin_line_has_a_high_coefficient(#[case] reynolds: f64, #[case] by_hand: f64) {
        assert_relative_eq!(
            NormalDrag::Reynolds.coefficient(reynolds).0,
            by_hand,
            max_relative = 1e-9
        );
    }

    #[rstest]
    #[case::length(Segment { length: Metres(-1.0), ..SOUND }, "segments[2].length_m")]
    #[case::diameter(Segment { diameter: Metres(0.0), ..SOUND }, "segments[2].diameter_m")]
    #[case::weight(
        Segment { submerged_weight: NewtonsPerMetre(f64::NAN), ..SOUND },
        "segments[2].submerged_weight_n_per_m"
    )]
    #[case::node(
        Segment { node: Some(PointLoad { drag_area: SquareMetres(-1.0), ..PointLoad::default() }), ..SOUND },
        "segments[2].node.drag_area_m2"
    )]
    fn a_bad_segment_is_refused_by_its_field(#[case] segment: Segment, #[case] field: &str) {
        assert_eq!(segment.check(2).unwrap_err().quantity(), field);
    }

    const SOUND: Segment = Segment {
        length: Metres(1.0),
        diameter: Metres(3e-4),
        submerged_weight: NewtonsPerMetre(1e-4),
        node: None,
    };

    /// By hand from the formula.
    #[rstest]
    #[case(1.0, 1.18 + 6.8 + 1.96 - 0.0004)]
    #[case(100.0, 1.18 + 6.8 * 0.016_596 + 0.196 - 0.039_85)]
    // Held below 1e-4.
    #[case(1e-9, 1.18 + 6.8 * 3_630.78 + 196.0)]
    fn a_smooth_cylinder_is_held_as_sucker_and_brauer_have_it(
        #[case] re: f64,
        #[case] by_hand: f64,
    ) {
        let (c_n, _) = NormalDrag::SuckerBrauer.coefficient(re);
        assert_relative_eq!(c_n, by_hand, max_relative = 1e-4);
    }

    #[test]
    fn a_line_strums_only_where_it_sheds_vortices() {
        let drag = LineDrag {
            strum: 1.5,
            ..LineDrag::default()
        };
        for (re, strum) in [
            (10.0, 1.0),
            (40.0, 1.0),
            (45.0, 1.125),
            (60.0, 1.5),
            (300.0, 1.5),
        ] {
            let (c_n, _) = NormalDrag::SuckerBrauer.coefficient(re);
            assert_relative_eq!(drag.across(re).0, strum * c_n, max_relative = 1e-12);
        }
    }

    #[test]
    fn the_power_is_that_of_the_figure() {
        for normal in [
            NormalDrag::SuckerBrauer,
            NormalDrag::Reynolds,
            NormalDrag::Constant(1.2),
        ] {
            let drag = LineDrag {
                normal,
                ..LineDrag::default()
            };
            for re in [0.5, 8.0, 30.0, 50.0, 90.0, 2_000.0, 40_000.0] {
                let step = 1e-6_f64;
                let change =
                    (drag.across(re * step.exp()).0 / drag.across(re * (-step).exp()).0).ln();
                assert_relative_eq!(drag.across(re).1, change / (2.0 * step), epsilon = 1e-6);
            }
        }
    }
}
