use super::Track;

/// Semi-major axis and flattening of WGS 84 (NIMA TR8350.2, 2000; from memory).
const A: f64 = 6_378_137.0;
const F: f64 = 1.0 / 298.257_223_563;

/// The ground around a place laid flat, metres east and north of it.
///
/// By the ellipsoid's two radii of curvature there: over the twenty kilometres of an outing within a thousandth of the
/// geodesic.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Plane {
    latitude: f64,
    longitude: f64,
    north: f64,
    east: f64,
}

impl Plane {
    /// Around a place, degrees.
    pub fn at(latitude: f64, longitude: f64) -> Self {
        let squared = F * (2.0 - F);
        let (sin, cos) = latitude.to_radians().sin_cos();
        let w = 1.0 - squared * sin * sin;
        Self {
            latitude,
            longitude,
            north: (A * (1.0 - squared) / w.powf(1.5)).to_radians(),
            east: (A * cos / w.sqrt()).to_radians(),
        }
    }

    /// Around the middle of a track.
    pub fn of(track: &Track) -> Self {
        let points = track.points();
        let middle = points[points.len() / 2];
        Self::at(middle.latitude, middle.longitude)
    }

    /// Metres east and north.
    pub fn place(&self, latitude: f64, longitude: f64) -> (f64, f64) {
        let turn = (longitude - self.longitude + 540.0).rem_euclid(360.0) - 180.0;
        (turn * self.east, (latitude - self.latitude) * self.north)
    }

    /// Latitude and longitude of a place so far east and north.
    pub fn back(&self, east: f64, north: f64) -> (f64, f64) {
        (
            self.latitude + north / self.north,
            self.longitude + east / self.east,
        )
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use approx::assert_abs_diff_eq;
    use geo::{Distance, Geodesic};

    /// Against Karney's geodesic (2013, J. Geodesy 87:43) as the `geo` crate has it.
    #[test]
    fn distances_are_those_of_the_geodesic() {
        let plane = Plane::at(50.42, -95.61);
        for (east, north) in [(3_000.0, 0.0), (0.0, 5_000.0), (-7_000.0, 7_000.0)] {
            let (latitude, longitude) = plane.back(east, north);
            let here = geo::Point::new(-95.61, 50.42);
            let way = Geodesic.distance(here, geo::Point::new(longitude, latitude));
            let own: f64 = east.hypot(north);
            assert_abs_diff_eq!(way, own, epsilon = 1e-3 * own);
            let (x, y) = plane.place(latitude, longitude);
            assert_abs_diff_eq!(x, east, epsilon = 1e-6);
            assert_abs_diff_eq!(y, north, epsilon = 1e-6);
        }
    }

    #[test]
    fn the_date_line_is_no_wall() {
        let (east, _) = Plane::at(0.0, 179.999).place(0.0, -179.999);
        assert_abs_diff_eq!(east, 222.6, epsilon = 0.1);
    }
}
