use std::ops::ControlFlow;

/// The explicit Runge–Kutta pair of order 5(4) of Dormand and Prince with step control.
///
/// The error of a step is measured component by component against `absolute + relative · |y|`;
/// the largest counts.
///
/// # Source
/// J. R. Dormand and P. J. Prince (1980), *J. Comput. Appl. Math.* 6:19, table 2 (from memory; the
/// tests hold it against an independent library).
#[derive(Debug, Clone, Copy)]
pub struct DormandPrince<const N: usize> {
    /// Relative tolerance of a step.
    pub relative: f64,
    /// Absolute tolerance of a step, one for each component.
    pub absolute: [f64; N],
    /// Steps after which the integration gives up.
    pub most_steps: usize,
}

/// One accepted step, enough to look at any point inside it.
#[derive(Debug, Clone, Copy)]
pub struct Step<const N: usize> {
    /// Where the step starts.
    pub from: f64,
    /// Where it ends.
    pub to: f64,
    /// State at the start.
    pub start: [f64; N],
    /// State at the end.
    pub end: [f64; N],
    /// Slope at the start.
    pub slope_start: [f64; N],
    /// Slope at the end.
    pub slope_end: [f64; N],
}

/// Why an integration ended before its end: the steps became too many.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Stopped {
    /// How far it had come.
    pub at: f64,
}

impl<const N: usize> Step<N> {
    /// State inside the step by the cubic that fits both ends and both slopes; for drawings.
    ///
    /// - `share`: 0 at the start of the step to 1 at its end.
    pub fn between(&self, share: f64) -> [f64; N] {
        let h = self.to - self.from;
        let t = share;
        let (t2, t3) = (t * t, t * t * t);
        std::array::from_fn(|i| {
            (2.0 * t3 - 3.0 * t2 + 1.0) * self.start[i]
                + (t3 - 2.0 * t2 + t) * h * self.slope_start[i]
                + (3.0 * t2 - 2.0 * t3) * self.end[i]
                + (t3 - t2) * h * self.slope_end[i]
        })
    }

    /// State at a distance `h` into the step, computed anew with the full order of the method.
    pub fn again(&self, f: impl Fn(&[f64; N]) -> [f64; N], h: f64) -> [f64; N] {
        stages(&f, &self.start, &self.slope_start, h).0
    }
}

impl<const N: usize> DormandPrince<N> {
    /// Integrates `dy/ds = f(y)` from `from` to `to`, handing over each accepted step.
    ///
    /// - `first`: length of the first step to try.
    /// - `each`: called with each accepted step; breaking ends the integration with its value.
    ///
    /// Returns the state at `to`, or what `each` broke with.
    ///
    /// # Errors
    /// [`Stopped`] when the slope is no number or more than `most_steps` steps would be needed.
    pub fn integrate<B>(
        &self,
        f: impl Fn(&[f64; N]) -> [f64; N],
        (from, to): (f64, f64),
        start: [f64; N],
        first: f64,
        mut each: impl FnMut(&Step<N>) -> ControlFlow<B>,
    ) -> Result<ControlFlow<B, [f64; N]>, Stopped> {
        let (mut s, mut y, mut slope) = (from, start, f(&start));
        let mut h = first.min(to - from);
        for _ in 0..self.most_steps {
            if s >= to {
                return Ok(ControlFlow::Continue(y));
            }
            let last = h >= to - s;
            if last {
                h = to - s;
            }
            let (end, slope_end, error) = self.attempt(&f, &y, &slope, h);
            if !error.is_finite() {
                h *= 0.1;
                if h < 1e-12 * to.abs().max(1.0) {
                    return Err(Stopped { at: s });
                }
                continue;
            }
            if error <= 1.0 {
                let step = Step {
                    from: s,
                    to: if last { to } else { s + h },
                    start: y,
                    end,
                    slope_start: slope,
                    slope_end,
                };
                if let ControlFlow::Break(value) = each(&step) {
                    return Ok(ControlFlow::Break(value));
                }
                (s, y, slope) = (step.to, end, slope_end);
            }
            h *= (0.9 * error.max(1e-10).powf(-0.2)).clamp(0.2, 6.0);
        }
        Err(Stopped { at: s })
    }

    /// One step of length `h`: the new state, its slope, and the error in units of the tolerance.
    fn attempt(
        &self,
        f: &impl Fn(&[f64; N]) -> [f64; N],
        y: &[f64; N],
        slope: &[f64; N],
        h: f64,
    ) -> ([f64; N], [f64; N], f64) {
        let (end, k) = stages(f, y, slope, h);
        let slope_end = f(&end);
        let mut error = 0.0_f64;
        for i in 0..N {
            let e = h
                * (71.0 / 57_600.0 * slope[i] - 71.0 / 16_695.0 * k[1][i]
                    + 71.0 / 1_920.0 * k[2][i]
                    - 17_253.0 / 339_200.0 * k[3][i]
                    + 22.0 / 525.0 * k[4][i]
                    - 1.0 / 40.0 * slope_end[i]);
            let scale = self.absolute[i] + self.relative * y[i].abs().max(end[i].abs());
            let share = (e / scale).abs();
            // `max` would swallow a NaN and accept the step.
            error = if share > error || share.is_nan() {
                share
            } else {
                error
            };
        }
        (end, slope_end, error)
    }
}

/// The new state after a step of length `h`, and the slopes of stages 2 to 6.
fn stages<const N: usize>(
    f: &impl Fn(&[f64; N]) -> [f64; N],
    y: &[f64; N],
    k1: &[f64; N],
    h: f64,
) -> ([f64; N], [[f64; N]; 5]) {
    let at = |terms: &[(f64, &[f64; N])]| -> [f64; N] {
        std::array::from_fn(|i| y[i] + h * terms.iter().map(|(a, k)| a * k[i]).sum::<f64>())
    };
    let k2 = f(&at(&[(1.0 / 5.0, k1)]));
    let k3 = f(&at(&[(3.0 / 40.0, k1), (9.0 / 40.0, &k2)]));
    let k4 = f(&at(&[
        (44.0 / 45.0, k1),
        (-56.0 / 15.0, &k2),
        (32.0 / 9.0, &k3),
    ]));
    let k5 = f(&at(&[
        (19_372.0 / 6_561.0, k1),
        (-25_360.0 / 2_187.0, &k2),
        (64_448.0 / 6_561.0, &k3),
        (-212.0 / 729.0, &k4),
    ]));
    let k6 = f(&at(&[
        (9_017.0 / 3_168.0, k1),
        (-355.0 / 33.0, &k2),
        (46_732.0 / 5_247.0, &k3),
        (49.0 / 176.0, &k4),
        (-5_103.0 / 18_656.0, &k5),
    ]));
    let end = at(&[
        (35.0 / 384.0, k1),
        (500.0 / 1_113.0, &k3),
        (125.0 / 192.0, &k4),
        (-2_187.0 / 6_784.0, &k5),
        (11.0 / 84.0, &k6),
    ]);
    (end, [k2, k3, k4, k5, k6])
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_abs_diff_eq;

    const FINE: DormandPrince<2> = DormandPrince {
        relative: 1e-10,
        absolute: [1e-12; 2],
        most_steps: 10_000,
    };

    fn pendulum(y: &[f64; 2]) -> [f64; 2] {
        [y[1], -y[0]]
    }

    #[test]
    fn a_full_swing_comes_back_to_its_start() {
        let end = FINE
            .integrate(
                pendulum,
                (0.0, std::f64::consts::TAU),
                [1.0, 0.0],
                0.1,
                |_| ControlFlow::<()>::Continue(()),
            )
            .unwrap();
        let ControlFlow::Continue(y) = end else {
            panic!("nothing breaks")
        };
        assert_abs_diff_eq!(y[0], 1.0, epsilon = 1e-8);
        assert_abs_diff_eq!(y[1], 0.0, epsilon = 1e-8);
    }

    /// The orbit of Arenstorf, a satellite of earth and moon that comes back to its start after one period; figures
    /// from E. Hairer, S. P. Nørsett & G. Wanner, *Solving Ordinary Differential Equations I*, (II.0.1) and (II.0.2)
    /// (from memory). The start is 6e-3 of the moon's distance from the moon: an error grows a millionfold.
    #[test]
    fn the_orbit_of_arenstorf_closes() {
        let moon = 0.012_277_471;
        let earth = 1.0 - moon;
        let orbit = |y: &[f64; 4]| {
            let [x, z, vx, vz] = *y;
            let d1 = ((x + moon).powi(2) + z * z).powf(1.5);
            let d2 = ((x - earth).powi(2) + z * z).powf(1.5);
            [
                vx,
                vz,
                x + 2.0 * vz - earth * (x + moon) / d1 - moon * (x - earth) / d2,
                z - 2.0 * vx - earth * z / d1 - moon * z / d2,
            ]
        };
        let solver = DormandPrince {
            relative: 1e-13,
            absolute: [1e-14; 4],
            most_steps: 100_000,
        };
        let start = [0.994, 0.0, 0.0, -2.001_585_106_379_082_5];
        let period = 17.065_216_560_157_963;
        let end = solver.integrate(orbit, (0.0, period), start, 1e-3, |_| {
            ControlFlow::<()>::Continue(())
        });
        let ControlFlow::Continue(y) = end.unwrap() else {
            panic!("nothing breaks")
        };
        assert_abs_diff_eq!(y[0], start[0], epsilon = 1e-5);
        assert_abs_diff_eq!(y[1], start[1], epsilon = 1e-5);
    }

    #[test]
    fn a_step_can_be_looked_into() {
        let mut worst = 0.0_f64;
        let _ = FINE
            .integrate(pendulum, (0.0, 3.0), [1.0, 0.0], 0.1, |step| {
                let middle = 0.5 * (step.from + step.to);
                worst = worst
                    .max((step.between(0.5)[0] - middle.cos()).abs())
                    .max((step.again(pendulum, middle - step.from)[0] - middle.cos()).abs());
                ControlFlow::<()>::Continue(())
            })
            .unwrap();
        assert!(worst < 1e-5, "{worst}");
    }

    #[test]
    fn a_slope_that_is_no_number_stops_it() {
        let stopped = FINE.integrate(
            |_| [f64::NAN, 0.0],
            (0.0, 1.0),
            [0.0; 2],
            0.1,
            |_| ControlFlow::<()>::Continue(()),
        );
        assert_eq!(stopped.unwrap_err(), Stopped { at: 0.0 });
    }
}
