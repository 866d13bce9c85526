use super::{Finish, Scene, Spectrum, dot, tables};

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

impl Picture {
    /// The picture of a finish in a scene; no white balance, the cast of the water is the point.
    pub fn of(finish: &Finish, scene: &Scene, glow_min: f64) -> Self {
        let luminance = |spectrum: &Spectrum| dot(spectrum, &tables::YBAR);
        let white = luminance(&scene.lit[0]) / std::f64::consts::PI;
        let brightest = white.max(luminance(&scene.background));
        // Where no light is left the picture is black.
        let exposure = if brightest > 0.0 {
            EXPOSED / brightest
        } else {
            0.0
        };
        Self {
            finish: srgb(&finish.mean_in(scene, glow_min), exposure),
            behind: srgb(&scene.background, exposure),
        }
    }

    /// A colour as `#rrggbb`.
    pub fn hex(colour: [f64; 3]) -> String {
        let [r, g, b] = colour.map(|channel| (255.0 * channel).round() as u8);
        format!("#{r:02x}{g:02x}{b:02x}")
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
