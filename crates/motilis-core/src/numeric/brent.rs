/// Finds where a continuous function crosses zero between two points of opposite sign.
///
/// - `f`: the function; called once for each point tried.
/// - `a`, `b`: the ends of the bracket, in any order.
/// - `tolerance`: half width, in units of the argument, at which the search stops.
///
/// Returns `None` when `f(a)` and `f(b)` have the same sign or either is not a number.
///
/// # Source
/// R. P. Brent (1973), *Algorithms for Minimization without Derivatives*, ch. 4 (chapter from memory).
///
/// ```
/// let root = motilis_core::numeric::root(|x| x * x - 2.0, 0.0, 2.0, 1e-12).unwrap();
/// assert!((root - 2.0_f64.sqrt()).abs() < 1e-11);
/// ```
pub fn root(mut f: impl FnMut(f64) -> f64, a: f64, b: f64, tolerance: f64) -> Option<f64> {
    let ends = ((a, f(a)), (b, f(b)));
    root_within(f, ends, tolerance)
}

/// The same where the function is known at both ends.
#[allow(
    clippy::float_cmp,
    reason = "Brent's test is whether two of the three points are the very same"
)]
pub fn root_within(
    mut f: impl FnMut(f64) -> f64,
    ((mut a, mut fa), (mut b, mut fb)): ((f64, f64), (f64, f64)),
    tolerance: f64,
) -> Option<f64> {
    if fa == 0.0 {
        return Some(a);
    }
    if fb == 0.0 {
        return Some(b);
    }
    if (fa < 0.0) == (fb < 0.0) || fa.is_nan() || fb.is_nan() {
        return None;
    }
    let (mut c, mut fc) = (a, fa);
    let (mut d, mut e) = (b - a, b - a);
    // Bisection alone would need about 60 halvings; Brent never needs more than a few times that.
    for _ in 0..200 {
        if fc.abs() < fb.abs() {
            (a, fa) = (b, fb);
            (b, fb) = (c, fc);
            (c, fc) = (a, fa);
        }
        let narrow = 2.0 * f64::EPSILON * b.abs() + 0.5 * tolerance;
        let half = 0.5 * (c - b);
        if half.abs() <= narrow || fb == 0.0 {
            return Some(b);
        }
        if e.abs() < narrow || fa.abs() <= fb.abs() {
            (d, e) = (half, half);
        } else {
            let s = fb / fa;
            let (mut p, mut q) = if a == c {
                (2.0 * half * s, 1.0 - s)
            } else {
                let (r, t) = (fb / fc, fa / fc);
                (
                    s * (2.0 * half * t * (t - r) - (b - a) * (r - 1.0)),
                    (t - 1.0) * (r - 1.0) * (s - 1.0),
                )
            };
            if p > 0.0 {
                q = -q;
            } else {
                p = -p;
            }
            if 2.0 * p < (3.0 * half * q - (narrow * q).abs()).min((e * q).abs()) {
                (e, d) = (d, p / q);
            } else {
                (d, e) = (half, half);
            }
        }
        (a, fa) = (b, fb);
        b += if d.abs() > narrow {
            d
        } else {
            narrow.copysign(half)
        };
        fb = f(b);
        if (fb < 0.0) == (fc < 0.0) {
            (c, fc) = (a, fa);
            d = b - a;
            e = d;
        }
    }
    Some(b)
}

#[cfg(test)]
mod tests {
    use super::root;
    use approx::assert_abs_diff_eq;

    #[test]
    fn the_root_of_a_steep_function_is_found() {
        let x = root(|x| x.powi(9), -1.0, 4.0, 1e-9).unwrap();
        assert_abs_diff_eq!(x, 0.0, epsilon = 1e-2);
        let x = root(|x: f64| x.cos() - x, 0.0, 1.0, 1e-12).unwrap();
        assert_abs_diff_eq!(x, 0.739_085_133_215_160_6, epsilon = 1e-11);
    }

    #[test]
    fn a_bracket_without_a_change_of_sign_has_no_root() {
        assert_eq!(root(|x| x * x + 1.0, -1.0, 1.0, 1e-9), None);
        assert_eq!(root(|_| f64::NAN, -1.0, 1.0, 1e-9), None);
    }

    #[test]
    fn an_end_that_is_the_root_is_returned() {
        assert_eq!(root(|x| x, 0.0, 1.0, 1e-9), Some(0.0));
        assert_eq!(root(|x| x, -1.0, 0.0, 1e-9), Some(0.0));
    }
}
