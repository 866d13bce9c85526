use super::{Quantity, System, Unit, show};
use motilis_core::Range;
use motilis_formats::quoted;
use std::fmt;

/// Reads what an angler types into one field.
///
/// Takes a decimal point or comma, fractions (`3/4`, `1 1/2`, `1½`), any unit of the quantity
/// behind the figure (`1.2 kn`), and feet with inches (`5 ft 6 in`). Without a unit the figure is in
/// the boat's own.
#[derive(Debug, Clone, Copy)]
pub struct Reader {
    /// What the field is called in a sentence, with a capital.
    pub label: &'static str,
    /// What it is a figure of.
    pub quantity: Quantity,
    /// The boat's units.
    pub system: System,
    /// The range it must lie in, SI.
    pub range: Range,
}

/// What is wrong with an entry and what would be right: one sentence for beside the field.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Problem(pub String);

impl fmt::Display for Problem {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(&self.0)
    }
}

impl Reader {
    /// The SI value of an entry.
    ///
    /// # Errors
    /// [`Problem`], the sentence to show.
    pub fn read(&self, typed: &str) -> Result<f64, Problem> {
        let typed = typed.trim();
        if typed.is_empty() {
            return Err(self.problem(format!("is empty; write it like {}", self.example())));
        }
        let si = self.sum(&pieces(typed), typed)?;
        if self.range.holds(si) {
            return Ok(si);
        }
        let (least, most) = (self.shown(self.range.least), self.shown(self.range.most));
        let side = if si <= self.range.least {
            "too small"
        } else {
            "too large"
        };
        let right = if self.range.is_open() {
            format!("more than {least} and at most {most}")
        } else {
            format!("{least} to {most}")
        };
        Err(self.problem(format!("{} is {side}; give {right}", quoted(typed))))
    }

    /// The SI value of an entry that may be left empty.
    ///
    /// # Errors
    /// [`Problem`] for anything else that is no figure.
    pub fn read_optional(&self, typed: &str) -> Result<Option<f64>, Problem> {
        if typed.trim().is_empty() {
            return Ok(None);
        }
        self.read(typed).map(Some)
    }

    fn sum(&self, pieces: &[Piece], typed: &str) -> Result<f64, Problem> {
        let not_a_number = || {
            self.problem(format!(
                "{} is not a number; write it like {}",
                quoted(typed),
                self.example()
            ))
        };
        let own = self.quantity.unit(self.system);
        let mut total = 0.0;
        for (place, piece) in pieces.iter().enumerate() {
            let figure = piece.figure.ok_or_else(not_a_number)?;
            let unit = if piece.unit.is_empty() {
                if pieces.len() > 1 {
                    return Err(not_a_number());
                }
                own
            } else {
                self.unit(&piece.unit).ok_or_else(|| {
                    if piece.unit.chars().all(char::is_alphabetic) || piece.unit.contains('/') {
                        self.problem(format!(
                            "{} has a unit that is not known here; use {}",
                            quoted(typed),
                            self.units()
                        ))
                    } else {
                        not_a_number()
                    }
                })?
            };
            // Only feet with inches add up, the inches behind the feet.
            if place > 0 && (unit.symbol != "in" || pieces.len() > 2) {
                return Err(not_a_number());
            }
            total += unit.to_si(figure);
        }
        if pieces.is_empty() {
            Err(not_a_number())
        } else {
            Ok(total)
        }
    }

    fn unit(&self, written: &str) -> Option<Unit> {
        let units = self.quantity.typed_units();
        units
            .iter()
            .find(|(name, _)| *name == written)
            .map(|(_, unit)| *unit)
    }

    /// The units a sentence lists: each symbol once.
    fn units(&self) -> String {
        let mut symbols: Vec<&str> = Vec::new();
        for (_, unit) in self.quantity.typed_units() {
            if !symbols.contains(&unit.symbol) {
                symbols.push(unit.symbol);
            }
        }
        symbols.join(", ")
    }

    fn shown(&self, si: f64) -> String {
        show(self.quantity, si, self.system).to_string()
    }

    fn example(&self) -> &'static str {
        match (self.quantity, self.system) {
            (Quantity::Speed, System::Imperial) => "1.2 mph",
            (Quantity::Speed, System::Metric) => "1.9 km/h",
            (Quantity::Depth, System::Imperial) => "22 ft",
            (Quantity::Depth, System::Metric) => "6.7 m",
            (Quantity::Length, System::Imperial) => "21 1/2 in",
            (Quantity::Length, System::Metric) => "54.5 cm",
            (Quantity::Mass, System::Imperial) => "1 1/2 oz",
            (Quantity::Mass, System::Metric) => "42 g",
            (Quantity::Bench, _) => "89 mm or 3 1/2 in",
            (Quantity::PartMass, _) => "1.2 g",
            (Quantity::Count, _) => "12",
            (Quantity::Temperature, System::Imperial) => "58 °F",
            (Quantity::FishMass, System::Imperial) => "3 1/2",
            (Quantity::FishMass, System::Metric) => "1.6",
            (Quantity::Temperature, System::Metric) => "14.5 °C",
        }
    }

    fn problem(&self, what: String) -> Problem {
        Problem(format!("{} {what}.", self.label))
    }
}

/// A figure with the unit written behind it; no figure when it is none.
struct Piece {
    figure: Option<f64>,
    unit: String,
}

/// Splits "5 ft 6 in" into its pieces: a run of figure characters, then a run of others.
fn pieces(typed: &str) -> Vec<Piece> {
    let lower = typed.to_lowercase().replace('−', "-").replace(',', ".");
    let mut pieces = Vec::new();
    let mut rest = lower.trim();
    while !rest.is_empty() {
        let end = figure_end(rest);
        let (figure, after) = rest.split_at(end);
        let unit_end = after
            .find(|c: char| c.is_ascii_digit() || "½¼¾⅛⅜⅝⅞".contains(c))
            .unwrap_or(after.len());
        let (unit, next) = after.split_at(unit_end);
        pieces.push(Piece {
            figure: parse_figure(figure.trim()),
            unit: unit.trim().to_owned(),
        });
        rest = next.trim_start();
    }
    pieces
}

/// Where the characters of a figure end: digits, point, sign, slash, spaces between, and an exponent.
fn figure_end(text: &str) -> usize {
    let mut end = 0;
    let mut characters = text.char_indices().peekable();
    while let Some((at, c)) = characters.next() {
        let exponent = c == 'e'
            && characters
                .peek()
                .is_some_and(|(_, next)| next.is_ascii_digit() || "+-".contains(*next));
        if c.is_ascii_digit() || "½¼¾⅛⅜⅝⅞.-+/ ".contains(c) || exponent {
            end = at + c.len_utf8();
        } else {
            break;
        }
    }
    end
}

/// "1.2", "3/4", "1 1/2", "1-1/2", "1½".
fn parse_figure(text: &str) -> Option<f64> {
    if let Some(figure) = plain(text) {
        return Some(figure);
    }
    if let Some((sign, digits)) = text
        .chars()
        .next_back()
        .and_then(vulgar)
        .map(|share| (share, text))
    {
        let whole: String = digits.chars().take(digits.chars().count() - 1).collect();
        let whole = whole.trim();
        return if whole.is_empty() {
            Some(sign)
        } else {
            Some(whole_number(whole)? + sign)
        };
    }
    let (whole, fraction) = text.rsplit_once([' ', '-']).unwrap_or(("", text));
    let (above, below) = fraction.split_once('/')?;
    let (above, below) = (whole_number(above)?, whole_number(below)?);
    if below == 0.0 {
        return None;
    }
    let whole = whole.trim();
    let whole = if whole.is_empty() {
        0.0
    } else {
        whole_number(whole)?
    };
    Some(whole + above / below)
}

/// A plain decimal number; words such as "inf" never get here, they hold no digits.
fn plain(text: &str) -> Option<f64> {
    let figure: f64 = text.parse().ok()?;
    (text.chars().any(|c| c.is_ascii_digit())).then_some(figure)
}

fn whole_number(text: &str) -> Option<f64> {
    let digits = !text.is_empty() && text.len() <= 6 && text.chars().all(|c| c.is_ascii_digit());
    digits.then(|| text.parse().ok()).flatten()
}

fn vulgar(c: char) -> Option<f64> {
    Some(match c {
        '½' => 0.5,
        '¼' => 0.25,
        '¾' => 0.75,
        '⅛' => 0.125,
        '⅜' => 0.375,
        '⅝' => 0.625,
        '⅞' => 0.875,
        _ => return None,
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    const ANY: Range = Range::closed(-1e3, 1e3, "", "");

    fn reader(quantity: Quantity, system: System) -> Reader {
        Reader {
            label: "Speed",
            quantity,
            system,
            range: ANY,
        }
    }

    #[rstest]
    #[case("1.2", 0.536_448)]
    #[case(" 1,2 ", 0.536_448)]
    #[case("1.2 mph", 0.536_448)]
    #[case("1.2MPH", 0.536_448)]
    #[case("1 kn", 1_852.0 / 3_600.0)]
    #[case("3,6 km/h", 1.0)]
    #[case("0.5 m/s", 0.5)]
    #[case(".5 m/s", 0.5)]
    #[case("5e-1 m/s", 0.5)]
    fn a_speed_is_read(#[case] typed: &str, #[case] mps: f64) {
        let read = reader(Quantity::Speed, System::Imperial)
            .read(typed)
            .unwrap();
        assert!((read - mps).abs() < 1e-9, "{read}");
    }

    #[rstest]
    #[case("3/4", 0.75)]
    #[case("1 1/2", 1.5)]
    #[case("1-1/2", 1.5)]
    #[case("1½", 1.5)]
    #[case("¼", 0.25)]
    #[case("21 3/4 in", 21.75)]
    #[case("21¾\"", 21.75)]
    #[case("1 ft 9 3/4 in", 21.75)]
    #[case("1' 9.75\"", 21.75)]
    #[case("25,4 mm", 1.0)]
    fn inches_may_be_fractions(#[case] typed: &str, #[case] inches: f64) {
        let read = reader(Quantity::Length, System::Imperial)
            .read(typed)
            .unwrap();
        assert!((read - inches * 0.0254).abs() < 1e-9, "{read}");
    }

    #[rstest]
    #[case("58", System::Imperial, 14.444_444)]
    #[case("14.5", System::Metric, 14.5)]
    #[case("58 F", System::Metric, 14.444_444)]
    #[case("14.5 °C", System::Imperial, 14.5)]
    #[case("−5 °C", System::Imperial, -5.0)]
    fn temperatures_know_their_scale(
        #[case] typed: &str,
        #[case] system: System,
        #[case] celsius: f64,
    ) {
        let read = reader(Quantity::Temperature, system).read(typed).unwrap();
        assert!((read - celsius).abs() < 1e-5, "{read}");
    }

    #[rstest]
    #[case("")]
    #[case("  ")]
    #[case("abc")]
    #[case("NaN")]
    #[case("inf")]
    #[case("-Infinity")]
    #[case("1e308")]
    #[case("1e999")]
    #[case("1.2.3")]
    #[case("1 2")]
    #[case("3/0")]
    #[case("/")]
    #[case("1/2/3")]
    #[case("--1")]
    #[case("1 bananas")]
    #[case("0x10")]
    #[case("1 ft 2 ft")]
    #[case("½½")]
    #[case("٣")]
    #[case("1e")]
    #[case("🐟")]
    fn nonsense_is_answered_with_a_sentence(#[case] typed: &str) {
        for quantity in [
            Quantity::Speed,
            Quantity::Depth,
            Quantity::Length,
            Quantity::Mass,
            Quantity::Temperature,
        ] {
            let problem = reader(quantity, System::Imperial)
                .read(typed)
                .unwrap_err()
                .0;
            assert!(
                problem.starts_with("Speed ") && problem.ends_with('.'),
                "{problem}"
            );
        }
    }

    #[test]
    fn sentences_say_what_would_be_right() {
        let reader = Reader {
            range: Range::closed(0.0, 4.5, "m/s", ""),
            ..reader(Quantity::Speed, System::Imperial)
        };
        let say = |typed: &str| reader.read(typed).unwrap_err().0;
        assert_eq!(say(""), "Speed is empty; write it like 1.2 mph.");
        assert_eq!(
            say("fast"),
            "Speed “fast” is not a number; write it like 1.2 mph."
        );
        assert_eq!(
            say("40"),
            "Speed “40” is too large; give 0.0 mph to 10.1 mph."
        );
        assert_eq!(
            say("-1"),
            "Speed “-1” is too small; give 0.0 mph to 10.1 mph."
        );
        let open = Reader {
            range: motilis_core::fields::TOWED.range,
            ..reader
        };
        assert_eq!(
            open.read("0").unwrap_err().0,
            "Speed “0” is too small; give more than 0.0 mph and at most 10.1 mph."
        );
        assert_eq!(
            say("1 furlong"),
            "Speed “1 furlong” has a unit that is not known here; use mph, kn, km/h, m/s."
        );
    }

    #[test]
    fn an_empty_entry_may_be_allowed() {
        let reader = reader(Quantity::Length, System::Metric);
        assert_eq!(reader.read_optional("  ").unwrap(), None);
        assert_eq!(reader.read_optional("50").unwrap(), Some(0.5));
        assert!(reader.read_optional("long").is_err());
    }
}
