/// A row of the table of clevises, mm and g.
pub(super) struct ClevisRow {
    pub(super) number: f64,
    pub(super) width: f64,
    pub(super) reach: f64,
    pub(super) bore: f64,
    pub(super) grams: f64,
    pub(super) carries: (f64, f64),
}

const fn clevis(
    number: f64,
    [width, reach, bore, grams]: [f64; 4],
    carries: (f64, f64),
) -> ClevisRow {
    ClevisRow {
        number,
        width,
        reach,
        bore,
        grams,
        carries,
    }
}

/// Number; width on the shaft, reach from the shaft to the blade's hole, bore and mass; the blade
/// numbers it carries. From memory.
pub(super) const CLEVIS: &[ClevisRow] = &[
    clevis(1.0, [2.6, 3.5, 0.95, 0.10], (0.0, 2.0)),
    clevis(2.0, [3.2, 4.5, 1.10, 0.15], (2.0, 4.0)),
    clevis(3.0, [4.0, 5.5, 1.25, 0.22], (4.0, 6.0)),
    clevis(4.0, [5.0, 7.0, 1.45, 0.35], (5.0, 8.0)),
];
