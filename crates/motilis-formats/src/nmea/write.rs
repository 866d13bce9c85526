use super::sentence::checksum;
use jiff::Timestamp;
use motilis_core::boat::BoatFix;
use motilis_core::units::{Celsius, Metres, MetresPerSecond};
use std::fmt::Write;

const KNOT: f64 = 1_852.0 / 3_600.0;

/// Sentences as instruments write them, each with its checksum and line end.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Sentences {
    text: String,
}

impl Sentences {
    /// What was written.
    pub fn into_text(self) -> String {
        self.text
    }

    fn add(&mut self, body: &str) {
        // Writing to a string cannot fail.
        let _ = write!(self.text, "${body}*{:02X}\r\n", checksum(body));
    }

    /// A receiver's fix as RMC, GGA and VTG.
    pub fn fix(&mut self, fix: &BoatFix) {
        let time = fix.at.strftime("%H%M%S.00");
        let [latitude, longitude] = fix.place;
        let place = format!(
            "{},{},{},{}",
            angle(latitude, 2),
            if latitude < 0.0 { 'S' } else { 'N' },
            angle(longitude, 3),
            if longitude < 0.0 { 'W' } else { 'E' },
        );
        let ground = fix.ground.map_or(0.0, |ground| ground.0);
        let course = fix
            .course_deg
            .map_or(String::new(), |course| format!("{course:.1}"));
        let knots = format!("{:.2}", ground / KNOT);
        let date = fix.at.strftime("%d%m%y");
        self.add(&format!(
            "GPRMC,{time},A,{place},{knots},{course},{date},,,A"
        ));
        self.add(&format!("GPGGA,{time},{place},1,09,0.9,301.2,M,-28.0,M,,"));
        self.add(&format!(
            "GPVTG,{course},T,,M,{knots},N,{:.2},K,A",
            ground * 3.6
        ));
    }

    /// A receiver that has lost its fix.
    pub fn no_fix(&mut self, at: Timestamp) {
        let (time, date) = (at.strftime("%H%M%S.00"), at.strftime("%d%m%y"));
        self.add(&format!("GPRMC,{time},V,,,,,,,{date},,,N"));
    }

    /// A depth below a transducer that hangs so deep.
    pub fn depth(&mut self, depth: Metres, transducer: Metres) {
        let below = (depth - transducer).0.max(0.0);
        self.add(&format!("SDDPT,{below:.2},{:.2}", transducer.0));
    }

    /// A sounder that has lost the bottom.
    pub fn no_depth(&mut self, transducer: Metres) {
        self.add(&format!("SDDPT,,{:.2}", transducer.0));
    }

    /// Speed through the water.
    pub fn through(&mut self, speed: MetresPerSecond) {
        let speed = speed.0;
        self.add(&format!(
            "VWVHW,,T,,M,{:.2},N,{:.2},K",
            speed / KNOT,
            speed * 3.6
        ));
    }

    /// Temperature of the water.
    pub fn temperature(&mut self, degrees: Celsius) {
        self.add(&format!("YXMTW,{:.1},C", degrees.0));
    }

    /// Wind as it is felt aboard.
    pub fn wind(&mut self, from_deg: f64, speed: MetresPerSecond) {
        let from = from_deg.rem_euclid(360.0);
        self.add(&format!("WIMWV,{from:.1},R,{:.1},M,A", speed.0));
    }
}

/// Degrees and minutes, five decimals of a minute: two centimetres.
fn angle(degrees: f64, digits: usize) -> String {
    let hundred_thousandths = (degrees.abs() * 60.0 * 1e5).round() as u64;
    let (whole, rest) = (
        hundred_thousandths / 6_000_000,
        hundred_thousandths % 6_000_000,
    );
    format!(
        "{whole:0digits$}{:02}.{:05}",
        rest / 100_000,
        rest % 100_000
    )
}
