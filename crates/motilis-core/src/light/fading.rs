use super::{Daylight, Optics, Spectrum, each, luminous};
use crate::numeric::root;
use crate::units::Metres;

/// How daylight fades with depth: one water under one sky.
#[derive(Debug, Clone, PartialEq)]
pub struct Fading {
    below: Spectrum,
    diffuse: Spectrum,
    whole: f64,
}

impl Fading {
    /// The fading of a daylight in a water.
    pub fn new(daylight: &Daylight, optics: &Optics) -> Self {
        Self {
            below: daylight.below,
            diffuse: optics.diffuse(daylight.slant),
            whole: luminous(&daylight.below),
        }
    }

    /// Share of the light just below the surface that is left at a depth, as the human eye weighs it; 1 to 0.
    pub fn share(&self, depth: Metres) -> f64 {
        let left = each(|band| self.below[band] * (-self.diffuse[band] * depth.0).exp());
        luminous(&left) / self.whole
    }

    /// Depth at which a share of the light is left.
    pub fn depth_of(&self, share: f64) -> Metres {
        // The slowest band alone would take so deep.
        let slowest = self.diffuse.iter().copied().fold(f64::INFINITY, f64::min);
        let deepest = -share.ln() / slowest;
        let found = root(
            |depth| self.share(Metres(depth)) - share,
            0.0,
            deepest,
            1e-4,
        );
        Metres(found.unwrap_or(deepest))
    }
}

#[cfg(test)]
mod tests {
    use super::super::{Sky, Stain};
    use super::*;
    use rstest::rstest;

    fn fading(stain: Stain, secchi: f64) -> Fading {
        let sky = Sky {
            sun_alt: 40.0,
            moon_alt: -20.0,
            moon_phase: 90.0,
            cloud: 0.3,
            wind: 3.0,
        };
        let optics = Optics::from_secchi(stain, secchi, false).unwrap();
        Fading::new(&Daylight::under(&sky).unwrap(), &optics)
    }

    /// Limits and round trip: all of it at the surface, none far down, and a depth has the share it was found by.
    #[rstest]
    #[case(Stain::Clear, 9.0)]
    #[case(Stain::Tea, 2.1)]
    #[case(Stain::Muddy, 0.5)]
    fn light_fades_from_all_to_none(#[case] stain: Stain, #[case] secchi: f64) {
        let fading = fading(stain, secchi);
        assert!((fading.share(Metres(0.0)) - 1.0).abs() < 1e-12);
        assert!(fading.share(Metres(40.0 * secchi)) < 1e-6);
        for share in [0.5, 0.1, 0.01] {
            assert!((fading.share(fading.depth_of(share)) / share - 1.0).abs() < 1e-3);
        }
    }

    /// Poole & Atkins (1929), *J. Mar. Biol. Assoc. UK* 16:297, from memory: attenuation times disk depth is some 1.7;
    /// waters between 1.3 and 2.5 are reported since.
    #[test]
    fn light_at_the_disk_is_as_reported() {
        let product = -fading(Stain::Green, 3.0).share(Metres(3.0)).ln();
        assert!((1.2..2.6).contains(&product), "{product}");
    }
}
