use super::{BANDS, LUMENS, Scene, Spectrum, WIDTH, bell, dot, each, photons, tables, times};

/// A finish of the light model: parts of an area, each with its reflectance and surface.
#[derive(Debug, Clone, PartialEq)]
pub struct Finish {
    name: &'static str,
    parts: Vec<Part>,
}

#[derive(Debug, Clone, PartialEq)]
struct Part {
    share: f64,
    reflectance: Spectrum,
    mirror: f64,
    together: f64,
    dye: Option<Dye>,
    phosphor: Option<Phosphor>,
}

/// What a dye takes up and sends out again, by photons.
#[derive(Debug, Clone, PartialEq)]
struct Dye {
    absorbed: Spectrum,
    sent: Spectrum,
}

#[derive(Debug, Clone, PartialEq)]
struct Phosphor {
    fresh: f64,
    time: f64,
    power: f64,
    /// Radiance of one cd/m².
    spectrum: Spectrum,
}

/// Radiance of a turning finish: on the whole, at its brightest and at its darkest.
pub type Phases = [Spectrum; 3];

impl Finish {
    /// Names of all finishes, as the JSON interface spells them.
    pub fn names() -> impl Iterator<Item = &'static str> {
        let mut last = "";
        tables::PARTS.iter().filter_map(move |row| {
            let new = row.0 != last;
            last = row.0;
            new.then_some(row.0)
        })
    }

    /// The finish of a name, if there is one.
    pub fn from_name(name: &str) -> Option<Self> {
        let rows = || tables::PARTS.iter().filter(|row| row.0 == name);
        let name = rows().next()?.0;
        Some(Self {
            name,
            parts: rows().map(Part::of).collect(),
        })
    }

    /// A blade with one finish on its face and another on its back: half of each.
    pub fn two_sided(face: &Self, back: &Self) -> Self {
        let halved = |part: &Part| Part {
            share: part.share / 2.0,
            ..part.clone()
        };
        Self {
            name: face.name,
            parts: face.parts.iter().chain(&back.parts).map(halved).collect(),
        }
    }

    /// The same under clear lacquer of a paint's colour: light goes through it twice, and what comes back is the paint's
    /// reflectance over its greatest (designed: nobody published a lacquer's curve to us).
    pub fn under_lacquer(&self, paint: &Self) -> Self {
        let paint = paint.parts[0].reflectance;
        let greatest = paint.iter().copied().fold(1e-9, f64::max);
        let lacquered = |part: &Part| Part {
            reflectance: each(|band| part.reflectance[band] * paint[band] / greatest),
            ..part.clone()
        };
        Self {
            name: self.name,
            parts: self.parts.iter().map(lacquered).collect(),
        }
    }

    /// The same with another finish on a share of its area.
    pub fn with_share(&self, other: &Self, share: f64) -> Self {
        let scaled = |by: f64| {
            move |part: &Part| Part {
                share: by * part.share,
                ..part.clone()
            }
        };
        let own = self.parts.iter().map(scaled(1.0 - share));
        Self {
            name: self.name,
            parts: own.chain(other.parts.iter().map(scaled(share))).collect(),
        }
    }

    /// Its name, as the JSON interface spells it.
    pub fn name(&self) -> &'static str {
        self.name
    }

    /// What each part sends back in a scene, with its share of the area; glow counts minutes since it was
    /// charged.
    pub(super) fn parts_in(&self, scene: &Scene, glow_min: f64) -> Vec<(f64, Phases)> {
        let seen = |part: &Part| {
            let glow = part.glow(glow_min);
            std::array::from_fn(|phase| part.phase(scene, glow.as_ref(), phase))
        };
        let parts = self.parts.iter();
        parts.map(|part| (part.share, seen(part))).collect()
    }

    /// What the whole sends back in a scene: the mean of its parts by area.
    pub fn seen_in(&self, scene: &Scene, glow_min: f64) -> Phases {
        whole(&self.parts_in(scene, glow_min))
    }

    /// The first of the three phases alone, the mean over a turn.
    pub(super) fn mean_in(&self, scene: &Scene, glow_min: f64) -> Spectrum {
        mixed(self.parts.iter().map(|part| {
            let glow = part.glow(glow_min);
            (part.share, part.phase(scene, glow.as_ref(), 0))
        }))
    }
}

/// What parts send back together.
pub(super) fn whole(parts: &[(f64, Phases)]) -> Phases {
    std::array::from_fn(|phase| mixed(parts.iter().map(|(share, seen)| (*share, seen[phase]))))
}

/// The mean of parts by their share of the area; the shares add up to 1.
fn mixed(parts: impl Iterator<Item = (f64, Spectrum)>) -> Spectrum {
    parts.fold([0.0; BANDS], |sum, (share, seen)| {
        each(|band| sum[band] + share * seen[band])
    })
}

impl Part {
    fn of(row: &tables::PartRow) -> Self {
        let &(_, reflectance, surface, share, dye, phosphor) = row;
        let named = "a part names a row of its table";
        let (_, reflectance) = tables::REFLECTANCE
            .iter()
            .find(|row| row.0 == reflectance)
            .expect(named);
        let &(_, mirror, together) = tables::SURFACES
            .iter()
            .find(|row| row.0 == surface)
            .expect(named);
        Self {
            share,
            reflectance: *reflectance,
            mirror,
            together,
            dye: dye.map(|dye| {
                let (_, absorbed, centre, width, quantum_yield) =
                    tables::DYES.iter().find(|row| row.0 == dye).expect(named);
                let photons = photons();
                let bell = bell(*centre, *width);
                Dye {
                    absorbed: times(absorbed, &photons),
                    sent: each(|band| {
                        quantum_yield / std::f64::consts::PI * WIDTH * bell[band] / photons[band]
                    }),
                }
            }),
            phosphor: phosphor.map(|phosphor| {
                let &(_, fresh, time, power, centre, width) = tables::GLOWS
                    .iter()
                    .find(|row| row.0 == phosphor)
                    .expect(named);
                let bell = bell(centre, width);
                let lumens = LUMENS * WIDTH * dot(&bell, &tables::YBAR);
                Phosphor {
                    fresh,
                    time,
                    power,
                    spectrum: bell.map(|one| one / lumens),
                }
            }),
        }
    }

    fn glow(&self, glow_min: f64) -> Option<Spectrum> {
        self.phosphor.as_ref().map(|phosphor| {
            let luminance =
                phosphor.fresh / (1.0 + 60.0 * glow_min / phosphor.time).powf(phosphor.power);
            phosphor.spectrum.map(|one| luminance * one)
        })
    }

    /// Radiance in one phase: 0 on the whole, 1 at its brightest, 2 at its darkest.
    fn phase(&self, scene: &Scene, glow: Option<&Spectrum>, phase: usize) -> Spectrum {
        // At the mean both shares are of the mean; in a flash only so much of it turns together.
        let (bent, facing) = if phase == 0 {
            (0.0, 0.0)
        } else {
            (self.together, 0.7)
        };
        let between = |of: &[Spectrum; 3], share: f64| {
            each(|band| share * of[phase][band] + (1.0 - share) * of[0][band])
        };
        let mirrored = between(&scene.mirrored, bent);
        let lit = between(&scene.lit, facing);
        let mut sent = each(|band| {
            let paint = lit[band] / std::f64::consts::PI;
            self.reflectance[band] * (self.mirror * mirrored[band] + (1.0 - self.mirror) * paint)
        });
        if let Some(dye) = &self.dye {
            let taken = dot(&lit, &dye.absorbed);
            sent = each(|band| sent[band] + taken * dye.sent[band]);
        }
        if let Some(glow) = glow {
            sent = each(|band| sent[band] + glow[band]);
        }
        sent
    }
}
