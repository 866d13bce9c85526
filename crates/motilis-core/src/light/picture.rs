use super::{Catch, Finish, Scene, Spectrum, dot, tables};

/// What a diver's camera shows of a finish and of the water behind it, sRGB 0–1.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Picture {
    /// The mean of the whole finish at no range.
    pub finish: [f64; 3],
    /// The water behind it, at the same exposure.
    pub behind: [f64; 3],
}

/// Brightness the brighter of a white face and the water gets.
const EXPOSED: f64 = 0.80;

/// How a camera is set: what it multiplies luminance by.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Exposure(f64);

impl Exposure {
    /// Set for one depth: the brighter of a white face and the water gets 0.8. Shows hue.
    pub fn of(scene: &Scene) -> Self {
        let luminance = |spectrum: &Spectrum| dot(spectrum, &tables::YBAR);
        Self::on(Self::white(scene).max(luminance(&scene.background)))
    }

    /// Set for white at a scene, to be kept for those below it. Shows how it darkens.
    pub fn for_white(scene: &Scene) -> Self {
        Self::on(Self::white(scene))
    }

    fn white(scene: &Scene) -> f64 {
        dot(&scene.lit[0], &tables::YBAR) / std::f64::consts::PI
    }

    fn on(brightest: f64) -> Self {
        // Where no light is left the picture is black.
        Self(if brightest > 0.0 {
            EXPOSED / brightest
        } else {
            0.0
        })
    }
}

impl Picture {
    /// The picture of a finish in a scene; no white balance, the cast of the water is the point.
    pub fn of(finish: &Finish, scene: &Scene, glow_min: f64) -> Self {
        Self::exposed(finish, scene, glow_min, Exposure::of(scene))
    }

    /// The same with the camera set otherwise.
    pub fn exposed(finish: &Finish, scene: &Scene, glow_min: f64, exposure: Exposure) -> Self {
        Self {
            finish: srgb(&finish.mean_in(scene, glow_min), exposure.0),
            behind: Self::of_water(scene, exposure),
        }
    }

    /// The water alone.
    pub fn of_water(scene: &Scene, exposure: Exposure) -> [f64; 3] {
        srgb(&scene.background, exposure.0)
    }

    /// A colour as `#rrggbb`.
    pub fn hex(colour: [f64; 3]) -> String {
        let [r, g, b] = colour.map(|channel| (255.0 * channel).round() as u8);
        format!("#{r:02x}{g:02x}{b:02x}")
    }
}

/// A finish as the cones of a fish divide it, in false colours, 0–1.
///
/// Red stands for its longest cone, green for the middle one, blue for the shortest of the three; a fish with
/// two cones gets its middle one for blue too, and what only the rods see is grey. Each receptor is adapted
/// to the water behind, which is therefore grey: a finish that differs from grey differs from the water.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FalseColours {
    /// The finish.
    pub finish: [f64; 3],
    /// The water.
    pub behind: [f64; 3],
}

impl FalseColours {
    /// Out of what each receptor catches, cones from the shortest to the longest and the rods last.
    ///
    /// - `by_rods`: whether the rods alone see it.
    ///
    /// # Source
    /// Response of an adapted receptor: Naka & Rushton (1966), *J. Physiol.* 185:536, with the background at
    /// half; from memory.
    pub fn of(catches: &[Catch], by_rods: bool) -> Self {
        let response = |catch: &Catch| {
            let ratio = catch.seen[0] / catch.behind;
            // In the dark there is neither.
            if ratio.is_finite() {
                ratio / (ratio + 1.0)
            } else {
                0.5
            }
        };
        let (rods, cones): (Vec<&Catch>, Vec<&Catch>) =
            catches.iter().partition(|catch| catch.receptor == "rod");
        let finish = match (rods.first(), cones.as_slice()) {
            (Some(rod), _) if by_rods => [response(rod); 3],
            (_, [.., short, middle, long]) => [response(long), response(middle), response(short)],
            (_, [middle, long]) => [response(long), response(middle), response(middle)],
            (_, [one]) => [response(one); 3],
            (_, []) => [0.5; 3],
        };
        Self {
            finish,
            behind: [0.5; 3],
        }
    }
}

/// sRGB of a spectrum at an exposure (IEC 61966-2-1); what a screen cannot show goes toward the grey of its
/// brightness.
fn srgb(spectrum: &Spectrum, exposure: f64) -> [f64; 3] {
    const FROM_XYZ: [[f64; 3]; 3] = [
        [3.2406, -1.5372, -0.4986],
        [-0.9689, 1.8758, 0.0415],
        [0.0557, -0.2040, 1.0570],
    ];
    let xyz = [tables::XBAR, tables::YBAR, tables::ZBAR].map(|cmf| exposure * dot(spectrum, &cmf));
    let mut linear = FROM_XYZ.map(|row| {
        row.iter()
            .zip(xyz)
            .map(|(factor, one)| factor * one)
            .sum::<f64>()
    });
    let least = linear.iter().copied().fold(f64::INFINITY, f64::min);
    if least < 0.0 {
        let grey = xyz[1];
        let share = grey / (grey - least);
        linear = linear.map(|channel| grey + share * (channel - grey));
    }
    let most = linear.iter().copied().fold(1.0, f64::max);
    linear.map(|channel| {
        let channel = channel.max(0.0) / most;
        if channel <= 0.003_130_8 {
            12.92 * channel
        } else {
            1.055 * channel.powf(1.0 / 2.4) - 0.055
        }
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_abs_diff_eq;

    #[test]
    fn what_is_like_the_water_is_grey_to_the_fish() {
        let catch = |receptor, seen| Catch {
            receptor,
            behind: 1.0,
            seen: [seen; 3],
            threshold: 0.1,
        };
        let three = [
            catch("S", 1.0),
            catch("M", 1.0),
            catch("L", 3.0),
            catch("rod", 0.0),
        ];
        let seen = FalseColours::of(&three, false);
        assert_eq!(Picture::hex(seen.finish), "#bf8080");
        assert_eq!(Picture::hex(seen.behind), "#808080");
        // To the rods alone it is dark, and two cones share out three colours.
        let by = |catches, rods| Picture::hex(FalseColours::of(catches, rods).finish);
        assert_eq!(by(&three, true), "#000000");
        assert_eq!(by(&three[1..3], false), "#bf8080");
    }

    #[test]
    fn a_white_face_in_daylight_is_white() {
        // CIE 015, D65, 360 to 700 nm.
        let daylight = [
            46.6383, 52.0891, 49.9755, 54.6482, 82.7549, 91.486, 93.4318, 86.6823, 104.865,
            117.008, 117.812, 114.861, 115.923, 108.811, 109.354, 107.802, 104.79, 107.689,
            104.405, 104.046, 100.0, 96.3342, 95.788, 88.6856, 90.0062, 89.5991, 87.6987, 83.2886,
            83.6992, 80.0268, 80.2146, 82.2778, 78.2842, 69.7213, 71.6091,
        ];
        let shown = srgb(&daylight, 1.0 / dot(&daylight, &tables::YBAR));
        for channel in shown {
            // Less than half a step of 8 bits; the bands end at 700 nm, which takes a little red.
            assert_abs_diff_eq!(channel, 1.0, epsilon = 1.5e-3);
        }
    }
}
