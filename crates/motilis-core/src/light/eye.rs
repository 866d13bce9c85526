use super::{Spectrum, WIDTH, each, photons, tables, times, wavelength};
use crate::keyed::keyed;

/// Whose eye it is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Viewer {
    /// Walleye.
    Walleye,
    /// Rainbow trout, grown.
    RainbowAdult,
    /// Rainbow trout, young, with ultraviolet cones.
    RainbowJuvenile,
    /// Brown trout.
    BrownTrout,
    /// Lake trout.
    LakeTrout,
    /// Chinook in the sea or the open lake.
    Chinook,
    /// Coho.
    Coho,
    /// A human diver, for comparison.
    HumanDiver,
}

keyed!(Viewer {
    Walleye "walleye" "walleye",
    RainbowAdult "rainbow_adult" "rainbow trout",
    RainbowJuvenile "rainbow_juvenile" "young rainbow trout",
    BrownTrout "brown_trout" "brown trout",
    LakeTrout "lake_trout" "lake trout",
    Chinook "chinook" "Chinook",
    Coho "coho" "coho",
    HumanDiver "human_diver" "a diver",
});

/// One kind of cone, or the rods.
#[derive(Debug, Clone, PartialEq)]
pub struct Receptor {
    /// `UV`, `S`, `M`, `L`, `V` or `rod`.
    pub name: &'static str,
    /// Sensitivity by band, behind the lens.
    pub sensitivity: Spectrum,
    /// Photons it catches of a radiance: sensitivity, photons of a joule and width of the band.
    pub(super) weight: Spectrum,
    rod: bool,
    share: f64,
    weber: f64,
    gather: f64,
    ricco: f64,
}

/// An eye.
#[derive(Debug, Clone, PartialEq)]
pub struct Eye {
    /// Cones first, then the rods.
    pub receptors: Vec<Receptor>,
}

#[derive(Clone, Copy)]
enum Pigment {
    A1(f64),
    A2(f64),
    Luminous,
}
use Pigment::{A1, A2, Luminous};

/// Lens and pupil; from memory, adult sizes. Lens: nm of half transmission; pupil mm; Ricco angles of cones
/// and rods, minutes of arc.
struct Build {
    pupil: f64,
    lens: f64,
    tapetum: bool,
    ricco: (f64, f64),
}

/// Name, pigment, share of the cones, Weber fraction.
type Cone = (&'static str, Pigment, f64, f64);

impl Viewer {
    /// Cones, and the pigment of the rods.
    fn pigments(self) -> (&'static [Cone], Option<Pigment>) {
        match self {
            Self::Walleye => (
                &[("M", A2(533.0), 0.33, 0.02), ("L", A2(605.0), 0.67, 0.02)],
                Some(A2(533.0)),
            ),
            Self::RainbowAdult => (
                &[
                    ("S", A1(434.0), 0.2, 0.05),
                    ("M", A1(531.0), 0.4, 0.02),
                    ("L", A2(600.0), 0.4, 0.02),
                ],
                Some(A1(516.0)),
            ),
            Self::RainbowJuvenile => (
                &[
                    ("UV", A1(365.0), 0.1, 0.05),
                    ("S", A1(434.0), 0.18, 0.05),
                    ("M", A1(531.0), 0.36, 0.02),
                    ("L", A2(600.0), 0.36, 0.02),
                ],
                Some(A1(516.0)),
            ),
            Self::BrownTrout => (
                &[
                    ("S", A2(441.0), 0.2, 0.05),
                    ("M", A2(535.0), 0.4, 0.02),
                    ("L", A2(600.0), 0.4, 0.02),
                ],
                Some(A2(520.0)),
            ),
            Self::LakeTrout => (
                &[
                    ("S", A1(440.0), 0.2, 0.05),
                    ("M", A1(530.0), 0.4, 0.02),
                    ("L", A2(600.0), 0.4, 0.02),
                ],
                Some(A1(515.0)),
            ),
            Self::Chinook => (
                &[
                    ("S", A1(434.0), 0.2, 0.05),
                    ("M", A1(518.0), 0.4, 0.02),
                    ("L", A1(570.0), 0.4, 0.02),
                ],
                Some(A1(509.0)),
            ),
            Self::Coho => (
                &[
                    ("S", A1(435.0), 0.2, 0.05),
                    ("M", A1(517.0), 0.4, 0.02),
                    ("L", A2(590.0), 0.4, 0.02),
                ],
                Some(A1(507.0)),
            ),
            // The fraction is exp(−4.8), which makes the eye's range Duntley's 4.8/c.
            Self::HumanDiver => (&[("V", Luminous, 1.0, 0.008_229_747_049_02)], None),
        }
    }

    fn build(self) -> Build {
        let (pupil, lens, ricco) = match self {
            Self::Walleye => (8.0, 400.0, (8.0, 40.0)),
            Self::RainbowAdult | Self::BrownTrout => (6.0, 350.0, (8.0, 30.0)),
            Self::RainbowJuvenile => (3.0, 345.0, (14.0, 40.0)),
            Self::LakeTrout | Self::Coho => (7.0, 350.0, (8.0, 30.0)),
            Self::Chinook => (8.0, 350.0, (8.0, 30.0)),
            Self::HumanDiver => (4.0, 380.0, (2.0, 20.0)),
        };
        Build {
            pupil,
            lens,
            tapetum: self == Self::Walleye,
            ricco,
        }
    }
}

/// Photons caught of those that arrive, from memory; a tapetum sends the rest through once more (walleye:
/// Ali & Anctil 1977).
const QUANTUM_EFFICIENCY: f64 = 0.30;
/// Light that passes the media of the eye; from memory.
const MEDIA: f64 = 0.8;
/// Signal to noise that is seen for sure (Rose 1948).
const ROSE: f64 = 3.0;
/// Weber fraction of rods, from memory.
const ROD_WEBER: f64 = 0.06;
/// Rods saturate about this catch, photons m⁻² s⁻¹ sr⁻¹; from memory.
const ROD_SATURATION: f64 = 1e16;
/// Noise of a colour channel of the commonest cone; from memory.
const CHROMATIC: f64 = 0.05;

impl Eye {
    /// The eye of a species.
    ///
    /// # Source
    /// Pigment templates: Govardovskii et al. (2000), *Visual Neurosci.* 17:509. Maxima: Burkhardt et al.
    /// (1980), Hawryshyn & Harosi (1991, 1994), Bowmaker & Kunz (1987), Flamarique (2005), Temple et al.
    /// (2006); lake trout, rods, shares, Weber fractions and lens from memory.
    pub fn of(viewer: Viewer) -> Self {
        let (cones, rod) = viewer.pigments();
        let build = viewer.build();
        let photons = photons();
        let receptor = |name, pigment: Pigment, share, weber, rod| {
            let sensitivity = pigment.behind(build.lens);
            let efficiency = if build.tapetum {
                1.0 - (1.0 - QUANTUM_EFFICIENCY).powi(2)
            } else {
                QUANTUM_EFFICIENCY
            };
            let pupil = std::f64::consts::FRAC_PI_4 * (build.pupil / 1e3).powi(2);
            let mut receptor = Receptor {
                name,
                sensitivity,
                weight: times(&sensitivity, &photons).map(|one| one * WIDTH),
                rod,
                share,
                weber,
                gather: pupil * MEDIA * efficiency * share,
                ricco: disc(if rod { build.ricco.1 } else { build.ricco.0 } / 60.0),
            };
            receptor.gather *= receptor.seconds();
            receptor
        };
        let cones = cones
            .iter()
            .map(|&(name, pigment, share, weber)| receptor(name, pigment, share, weber, false));
        let rods = rod.map(|pigment| receptor("rod", pigment, 1.0, ROD_WEBER, true));
        Self {
            receptors: cones.chain(rods).collect(),
        }
    }

    /// Colour distance of two catches, in just noticeable steps, cones only (Vorobyev & Osorio 1998).
    pub(super) fn colour_distance(&self, seen: &[f64], behind: &[f64]) -> f64 {
        let most = self
            .receptors
            .iter()
            .filter(|r| !r.rod)
            .fold(0.0, |most, r| r.share.max(most));
        let channels: Vec<(f64, f64)> = self
            .receptors
            .iter()
            .zip(seen.iter().zip(behind))
            .filter(|(receptor, _)| !receptor.rod)
            .map(|(receptor, (&seen, &behind))| {
                let dark = receptor.dark();
                let signal = ((seen + dark) / (behind + dark)).ln();
                let noise = CHROMATIC.powi(2) * most / receptor.share
                    + (behind + dark) / (behind.powi(2) * receptor.gather * receptor.pool());
                (signal, noise)
            })
            .collect();
        let weights: f64 = channels.iter().map(|(_, noise)| 1.0 / noise).sum();
        if weights <= 0.0 {
            return 0.0;
        }
        let mean = channels
            .iter()
            .map(|(signal, noise)| signal / noise)
            .sum::<f64>()
            / weights;
        channels
            .iter()
            .map(|(signal, noise)| (signal - mean).powi(2) / noise)
            .sum::<f64>()
            .sqrt()
    }
}

/// Solid angle of a disc by its diameter in degrees, sr.
fn disc(degrees: f64) -> f64 {
    std::f64::consts::FRAC_PI_4 * degrees.to_radians().powi(2)
}

impl Receptor {
    /// Time over which it gathers light, s; from memory.
    fn seconds(&self) -> f64 {
        if self.rod { 0.1 } else { 0.025 }
    }

    /// Its own dark light, photons m⁻² s⁻¹ sr⁻¹; from memory.
    fn dark(&self) -> f64 {
        if self.rod { 1e10 } else { 1e13 }
    }

    /// The largest solid angle it sums over, sr; from memory.
    fn pool(&self) -> f64 {
        disc(if self.rod { 5.0 } else { 1.0 })
    }

    /// The least contrast it ever sees.
    pub(super) fn weber(&self) -> f64 {
        self.weber
    }

    /// How much of a flicker it follows, by flashes a second.
    pub(super) fn follows(&self, flashes: f64) -> f64 {
        1.0 / (1.0 + (std::f64::consts::TAU * flashes * self.seconds()).powi(2)).sqrt()
    }

    /// Share of a target's contrast that is left when it is smaller than what the eye sums over.
    pub(super) fn filled(&self, solid_angle: f64) -> f64 {
        (solid_angle / self.ricco).min(1.0)
    }

    /// The least contrast seen against a background's catch, of a target of a solid angle, sr.
    ///
    /// Weber's law in bright light, Rose's (1948) square root as photons grow few, an inverse law below the
    /// dark light (Barlow 1957).
    pub fn threshold(&self, behind: f64, solid_angle: f64) -> f64 {
        if behind <= 0.0 {
            return f64::INFINITY;
        }
        let solid_angle = solid_angle.max(self.ricco).min(self.pool());
        let weber = if self.rod {
            self.weber * (1.0 + behind / ROD_SATURATION)
        } else {
            self.weber
        };
        let quantum =
            ROSE.powi(2) * (behind + self.dark()) / (behind.powi(2) * self.gather * solid_angle);
        (weber.powi(2) + quantum).sqrt()
    }
}

impl Pigment {
    /// Sensitivity behind a lens that passes half at a wavelength, nm.
    fn behind(self, lens: f64) -> Spectrum {
        const LENS_WIDTH: f64 = 8.0;
        match self {
            Luminous => tables::YBAR,
            pigment => each(|band| {
                let nm = wavelength(band);
                pigment.at(nm) / (1.0 + (-(nm - lens) / LENS_WIDTH).exp())
            }),
        }
    }

    /// Absorbance at a wavelength, nm, 1 at the maximum (Govardovskii et al. 2000); alpha and beta band.
    fn at(self, nm: f64) -> f64 {
        let alpha = |max: f64, [a, b, c]: [f64; 3], steep: [f64; 3], floor: f64| {
            let x = max / nm;
            1.0 / ((steep[0] * (a - x)).exp()
                + (steep[1] * (b - x)).exp()
                + (steep[2] * (c - x)).exp()
                + floor)
        };
        let beta = |height: f64, centre: f64, width: f64| {
            height * (-((nm - centre) / width).powi(2)).exp()
        };
        match self {
            A1(max) => {
                let a = 0.8795 + 0.0459 * (-(max - 300.0).powi(2) / 11_940.0).exp();
                alpha(max, [a, 0.922, 1.104], [69.7, 28.0, -14.9], 0.674)
                    + beta(0.26, 189.0 + 0.315 * max, -40.5 + 0.195 * max)
            }
            A2(max) => {
                let steep = 62.7 + 1.834 * ((max - 625.0) / 54.2).exp();
                let a = 0.875 + 0.0268 * ((max - 665.0) / 40.7).exp();
                alpha(max, [a, 0.9101, 1.1123], [steep, 20.85, -10.37], 0.5343)
                    + beta(
                        0.37,
                        216.7 + 0.287 * max,
                        317.0 - 1.149 * max + 0.001_24 * max * max,
                    )
            }
            Luminous => unreachable!("the eye's luminous efficiency is a table, no template"),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_relative_eq;

    #[test]
    fn pigments_without_a_lens() {
        // expected_pigments.csv: the same templates in NumPy; columns A1_365, A2_533 …
        let file = include_str!("../../tests/data/light/expected_pigments.csv");
        let mut reader = csv::ReaderBuilder::new();
        let mut reader = reader.comment(Some(b'#')).from_reader(file.as_bytes());
        let columns = reader.headers().unwrap().clone();
        let mut checked = 0;
        for row in reader.records().map(Result::unwrap) {
            let figure = |column: usize| row[column].parse::<f64>().unwrap();
            for column in 1..columns.len() {
                let (template, max) = columns[column].split_once('_').unwrap();
                let max = max.parse().unwrap();
                let pigment = if template == "A1" { A1(max) } else { A2(max) };
                let ours = pigment.at(figure(0));
                assert_relative_eq!(ours, figure(column), max_relative = 1e-6, epsilon = 1e-9);
                checked += 1;
            }
        }
        assert_eq!(checked, 35 * 8);
    }
}
