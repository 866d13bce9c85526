use super::kit::{Px, Scale};
use askama::Template;

/// Size of the bar, px.
const WIDTH: f64 = 320.0;
const HEIGHT: f64 = 26.0;

/// An interval on a scale that all of a page share, with the angler's own mean as a line.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/rate_bar.svg")]
pub struct RateBar {
    width: Px,
    height: Px,
    from: Px,
    span: Px,
    at: Px,
    mean: Px,
}

impl RateBar {
    /// Draws a rate within its interval; `most` is the end of the scale.
    pub fn new(rate: f64, (low, high): (f64, f64), mean: f64, most: f64) -> Self {
        let x = Scale::new((0.0, most), (2.0, WIDTH - 2.0));
        let at = |figure: f64| x.at(figure.clamp(0.0, most));
        let from = at(low);
        Self {
            width: Px(WIDTH),
            height: Px(HEIGHT),
            from,
            span: Px((at(high).0 - from.0).max(2.0)),
            at: at(rate),
            mean: at(mean),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn an_interval_beyond_the_scale_ends_at_it() {
        let bar = RateBar::new(0.4, (0.1, 9.0), 0.25, 1.0);
        assert!((bar.from.0 + bar.span.0 - (WIDTH - 2.0)).abs() < 1e-9);
        assert!(bar.from.0 < bar.mean.0 && bar.mean.0 < bar.at.0);
    }
}
