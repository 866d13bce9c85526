//! The form of a run: its figures, seven stations, marks on its plan.

use super::{Texts, Typed, problem, text};
use crate::screens::{Choice, Field, RunForm};
use crate::units::{Problem, Quantity, System};
use motilis_core::Range;
use motilis_core::book::WaterId;
use motilis_core::fields;
use motilis_core::river::{
    Bank, Bed, CubicMetresPerSecond, Mark, MarkKind, Pace, Run, Station, timed,
};
use motilis_core::units::{FOOT, Metres, MetresPerSecond};
use motilis_formats::quoted;

const NAME: &str = "Name";
/// Names of the fields of the stations: offset, depth, surface.
const STATIONS: [[&str; 3]; 7] = [
    ["offset_0", "depth_0", "surface_0"],
    ["offset_1", "depth_1", "surface_1"],
    ["offset_2", "depth_2", "surface_2"],
    ["offset_3", "depth_3", "surface_3"],
    ["offset_4", "depth_4", "surface_4"],
    ["offset_5", "depth_5", "surface_5"],
    ["offset_6", "depth_6", "surface_6"],
];
/// Names of the fields of the marks: what, along, across.
const MARKS: [[&str; 3]; 6] = [
    ["mark_0", "along_0", "across_0"],
    ["mark_1", "along_1", "across_1"],
    ["mark_2", "along_2", "across_2"],
    ["mark_3", "along_3", "across_3"],
    ["mark_4", "along_4", "across_4"],
    ["mark_5", "along_5", "across_5"],
];
/// A pace, m; from memory.
const PACE: f64 = 0.75;
/// A cubic foot, m³.
const CUBIC_FOOT: f64 = FOOT.0 * FOOT.0 * FOOT.0;

/// What a form was read into, or the form with what is wrong.
pub struct ReadRun {
    /// The run, where every field can be.
    pub run: Option<Run>,
    /// The form as it was typed.
    pub form: RunForm,
}

/// The surface speed of an entry: a pace in words, a way and the seconds a leaf takes for it, or a speed.
///
/// # Errors
/// [`Problem`], the sentence to show.
pub fn surface(typed: &str, label: &'static str, system: System) -> Result<f64, Problem> {
    let words = typed.trim().to_lowercase();
    let named = |pace: &&Pace| pace.name() == words || pace.key() == words;
    if let Some(pace) = Pace::ALL.iter().find(named) {
        return Ok(pace.speed().0);
    }
    let Some((way, time)) = words.split_once(" in ") else {
        let mut speed = Typed::new(
            fields::STATION_SPEED,
            label,
            (Quantity::Speed, system),
            &words,
        );
        let read = speed.or(0.0);
        return match speed.field.problem {
            None => Ok(read),
            Some(Problem(says))
                if says.contains("is not a number") || says.contains("is empty") =>
            {
                Err(Problem(format!(
                    "{label} {} cannot be read; write a speed, a pace such as walking pace, or how far a leaf goes in how long: {} in 8 s.",
                    quoted(typed),
                    if system == System::Imperial {
                        "30 ft"
                    } else {
                        "10 m"
                    }
                )))
            }
            Some(problem) => Err(problem),
        };
    };
    let seconds = time
        .trim_end_matches("seconds")
        .trim_end_matches("sec")
        .trim_end_matches('s')
        .trim()
        .replace(',', ".");
    let wrong = || {
        Problem(format!(
            "{label}: the seconds of {} cannot be read; write it like 30 ft in 8 s.",
            quoted(typed)
        ))
    };
    let seconds: f64 = seconds.parse().map_err(|_| wrong())?;
    let paces = way
        .trim()
        .strip_suffix("paces")
        .or(way.trim().strip_suffix("steps"));
    let way = if let Some(count) = paces {
        PACE * count.trim().parse::<f64>().map_err(|_| wrong())?
    } else {
        let mut typed = Typed::new(fields::LEAF_WAY, label, (Quantity::Depth, system), way);
        let read = typed.or(1.0);
        if let Some(problem) = typed.field.problem {
            return Err(problem);
        }
        read
    };
    timed(Metres(way), seconds)
        .map(|speed| speed.0)
        .map_err(|error| problem(&error))
}

/// What a gauge says: a figure in the boat's unit, or with `m3/s` or `cfs` behind it.
fn discharge(field: &mut Field, system: System) -> Option<CubicMetresPerSecond> {
    let typed = field.value.trim().to_lowercase();
    if typed.is_empty() {
        return None;
    }
    let (figure, unit) = ["m³/s", "m3/s", "cumecs", "cfs", "ft³/s", "ft3/s"]
        .iter()
        .find_map(|unit| Some((typed.strip_suffix(unit)?, Some(*unit))))
        .unwrap_or((typed.as_str(), None));
    let cubic_feet = unit.map_or(system == System::Imperial, |unit| {
        !(unit.starts_with('m') || unit == "cumecs")
    });
    let factor = if cubic_feet { CUBIC_FOOT } else { 1.0 };
    let read = figure.trim().replace(',', ".").parse::<f64>();
    let Ok(figure) = read else {
        field.problem = Some(Problem(format!(
            "The gauge’s figure {} is not a number; write it like {}.",
            quoted(&field.value),
            if system == System::Imperial {
                "640 cfs"
            } else {
                "18 m³/s"
            }
        )));
        return None;
    };
    match fields::DISCHARGE.check(figure * factor) {
        Ok(flow) => Some(CubicMetresPerSecond(flow)),
        Err(error) => {
            field.problem = Some(problem(&error));
            None
        }
    }
}

/// A discharge as the gauge of the country says it.
pub fn shown_discharge(flow: CubicMetresPerSecond, system: System) -> String {
    match system {
        System::Imperial => format!("{:.0} cfs", flow.0 / CUBIC_FOOT),
        System::Metric => format!("{:.1} m³/s", flow.0),
    }
}

/// A field that is known by a name of a list.
fn named(typed: Typed, name: &'static str) -> Typed {
    Typed {
        field: Field {
            name,
            ..typed.field
        },
        ..typed
    }
}

fn length(asked: fields::Field, label: &'static str, typed: &str, system: System) -> Typed {
    Typed::new(asked, label, (Quantity::Depth, system), typed)
}

/// The form of a run that is new: a bank at either side, and a name to give.
pub fn blank(system: System) -> RunForm {
    let mut texts = Texts::new();
    let mut put = |name: &str, value: &str| texts.insert(name.to_owned(), value.to_owned());
    put("name", "");
    put("bank", Bank::Right.key());
    put("bed", Bed::Gravel.key());
    for (name, si) in [(fields::RUN_LENGTH.form, 40.0), (fields::STAND.form, 2.0)] {
        put(name, &shown(si, system));
    }
    put(fields::GROWTH.form, "0");
    put(fields::DISCHARGE.form, "");
    put(STATIONS[0][0], "0");
    form_of(&texts, system, false)
}

fn shown(si: f64, system: System) -> String {
    system.depth(Metres(si)).typed()
}

/// What stands in the form of a run.
pub fn texts_of(run: &Run, system: System) -> Texts {
    let mut texts = Texts::new();
    let mut put = |name: &str, value: String| texts.insert(name.to_owned(), value);
    put("name", run.name.clone());
    put("bank", run.bank.key().to_owned());
    put("bed", run.bed.key().to_owned());
    put(fields::RUN_LENGTH.form, shown(run.length.0, system));
    put(fields::STAND.form, shown(run.wade.0, system));
    put(fields::GROWTH.form, shown(run.growth.0, system));
    put(fields::DISCHARGE.form, String::new());
    for ([offset, depth, surface], station) in STATIONS.iter().zip(&run.stations) {
        put(offset, shown(station.offset.0, system));
        put(depth, shown(station.depth.0, system));
        put(surface, system.speed(station.surface).typed());
    }
    for ([kind, along, across], mark) in MARKS.iter().zip(&run.marks) {
        put(kind, mark.kind.key().to_owned());
        put(along, shown(mark.along.0, system));
        put(across, shown(mark.across.0, system));
    }
    texts
}

/// The form of a run as it is.
pub fn shown_run(run: &Run, system: System) -> RunForm {
    form_of(&texts_of(run, system), system, true)
}

fn form_of(texts: &Texts, system: System, judged: bool) -> RunForm {
    let mut form = Reading::new(texts, system).form();
    if !judged {
        form.quiet();
    }
    form
}

/// A form being read.
struct Reading<'t> {
    texts: &'t Texts,
    system: System,
    name: Field,
    figures: [Typed; 3],
    discharge: Field,
    stations: Vec<[Field; 3]>,
    read: Vec<Option<Station>>,
    marks: Vec<(&'static str, String, [Typed; 2])>,
}

impl<'t> Reading<'t> {
    fn new(texts: &'t Texts, system: System) -> Self {
        let value = |name: &str| texts.get(name).map_or("", String::as_str);
        let figures = [
            (fields::RUN_LENGTH, "From head to tail-out"),
            (fields::STAND, "Wade out at most"),
            (fields::GROWTH, "Weed or wood stands up"),
        ];
        let mut stations = Vec::new();
        let mut read = Vec::new();
        for names in STATIONS {
            let (fields, station) = Self::station(names, names.map(value), system);
            stations.push(fields);
            read.push(station);
        }
        let marks = MARKS.map(|[kind, along, across]| {
            let places = [
                named(
                    length(
                        fields::MARK_ALONG,
                        "Down from the head",
                        value(along),
                        system,
                    ),
                    along,
                ),
                named(
                    length(
                        fields::MARK_ACROSS,
                        "Out from the bank",
                        value(across),
                        system,
                    ),
                    across,
                ),
            ];
            (kind, value(kind).to_owned(), places)
        });
        Self {
            texts,
            system,
            name: text("name", NAME, value("name")),
            figures: figures.map(|(asked, label)| length(asked, label, value(asked.form), system)),
            discharge: text(
                fields::DISCHARGE.form,
                "Gauge today",
                value(fields::DISCHARGE.form),
            ),
            stations,
            read,
            marks: marks.into(),
        }
    }

    /// A row of the stations; an empty one is none.
    fn station(
        [offset, depth, speed]: [&'static str; 3],
        typed: [&str; 3],
        system: System,
    ) -> ([Field; 3], Option<Station>) {
        let mut out = named(
            length(
                fields::STATION_OFFSET,
                "Out from the bank",
                typed[0],
                system,
            ),
            offset,
        );
        let mut deep = named(
            length(fields::STATION_DEPTH, "Depth", typed[1], system),
            depth,
        );
        let mut surface_field = Field {
            unit: Quantity::Speed.unit(system).symbol,
            ..text(speed, "Surface", typed[2])
        };
        if typed[1].trim().is_empty() && typed[2].trim().is_empty() {
            return ([out.field, deep.field, surface_field], None);
        }
        let (across, down) = (out.or(0.0), deep.or(1.0));
        let fast = surface(typed[2], "Surface", system).map_err(|problem| {
            surface_field.problem = Some(problem);
        });
        let sound = out.field.problem.is_none() && deep.field.problem.is_none();
        let station = fast.ok().filter(|_| sound).map(|fast| Station {
            offset: Metres(across),
            depth: Metres(down),
            surface: MetresPerSecond(fast),
        });
        ([out.field, deep.field, surface_field], station)
    }

    fn form(self) -> RunForm {
        let value = |name: &str| self.texts.get(name).map_or("", String::as_str);
        let [length, wade, growth] = self.figures.map(|typed| typed.field);
        let keyed = |kind: MarkKind| (kind.key(), kind.name());
        let marks = self.marks.into_iter().map(|(name, chosen, places)| {
            let kinds =
                std::iter::once(("", "none")).chain(MarkKind::ALL.iter().copied().map(keyed));
            let [along, across] = places.map(|typed| typed.field);
            (name, Choice::list(kinds, &chosen), along, across)
        });
        RunForm {
            name: self.name,
            bank: Choice::list(
                Bank::ALL.iter().map(|bank| (bank.key(), bank.name())),
                value("bank"),
            ),
            bed: Choice::list(
                Bed::ALL.iter().map(|bed| (bed.key(), bed.name())),
                value("bed"),
            ),
            figures: vec![length, wade, growth],
            discharge: self.discharge,
            discharge_unit: match self.system {
                System::Imperial => "cfs",
                System::Metric => "m³/s",
            },
            stations: self.stations,
            marks: marks.collect(),
            base: super::base(self.texts),
            refusal: None,
        }
    }
}

/// The run that a form tells of.
pub fn read(texts: &Texts, water: WaterId, kept: Option<&Run>, system: System) -> ReadRun {
    let value = |name: &str| texts.get(name).map_or("", String::as_str);
    let mut reading = Reading::new(texts, system);
    let was = |si: fn(&Run) -> f64| kept.map(si);
    let olds = [
        was(|run| run.length.0),
        was(|run| run.wade.0),
        was(|run| run.growth.0),
    ];
    let [length, wade, growth] = std::array::from_fn(|place| {
        let typed = &mut reading.figures[place];
        let read = typed.or(fields_least(place));
        olds[place].map_or(read, |old| typed.unless_shown(old, read))
    });
    let flow = discharge(&mut reading.discharge, system);
    let stations: Vec<Station> = reading
        .read
        .iter()
        .enumerate()
        .filter_map(|(place, station)| {
            let station = (*station)?;
            // A figure that was left alone is not rounded by looking at it.
            let kept = kept.and_then(|run| run.stations.get(place));
            Some(kept.map_or(station, |kept| left_alone(&station, kept, system)))
        })
        .collect();
    let mut marks = Vec::new();
    for (_, kind, places) in &mut reading.marks {
        if let Some(kind) = MarkKind::from_key(kind) {
            let [along, across] = places;
            marks.push(Mark {
                kind,
                along: Metres(along.or(0.0)),
                across: Metres(across.or(0.0)),
            });
        }
    }
    let run = Run {
        water,
        name: value("name").trim().to_owned(),
        bank: Bank::from_key(value("bank")).unwrap_or(Bank::Right),
        length: Metres(length),
        wade: Metres(wade),
        bed: Bed::from_key(value("bed")).unwrap_or(Bed::Gravel),
        growth: Metres(growth),
        stations,
        marks,
    };
    let half_read = reading
        .stations
        .iter()
        .flatten()
        .any(|field| field.problem.is_some());
    let sound = !half_read
        && reading.discharge.problem.is_none()
        && reading
            .figures
            .iter()
            .all(|one| one.field.problem.is_none())
        && reading
            .marks
            .iter()
            .flat_map(|(.., places)| places)
            .all(|one| one.field.problem.is_none());
    let checked = run.check().and_then(|()| match flow {
        Some(flow) => run.at_discharge(flow),
        None => Ok(run.clone()),
    });
    match checked {
        Ok(run) if sound => ReadRun {
            run: Some(run),
            form: reading.form(),
        },
        Ok(_) => ReadRun {
            run: None,
            form: reading.form(),
        },
        Err(error) => {
            let meant = reading
                .figures
                .iter_mut()
                .find(|typed| typed.is_meant(&error));
            let mut refusal = None;
            match (meant, error.quantity()) {
                _ if !sound => {}
                (Some(typed), _) => typed.field.problem = Some(problem(&error)),
                (None, "name") => reading.name.problem = Some(problem(&error)),
                (None, key) if key == fields::DISCHARGE.key => {
                    reading.discharge.problem = Some(problem(&error));
                }
                (None, _) => refusal = Some(problem(&error).0),
            }
            ReadRun {
                run: None,
                form: RunForm {
                    refusal,
                    ..reading.form()
                },
            }
        }
    }
}

/// A run over one that is kept: what was left alone stays as it stands now; a figure that two changed is said.
pub fn read_over(texts: &Texts, base: Option<&str>, kept: &Run, system: System) -> ReadRun {
    let merged = super::merge(texts, base, &texts_of(kept, system));
    let mut read = read(&merged.texts, kept.water, Some(kept), system);
    if let Some((name, theirs)) = merged.conflicts.first() {
        read.run = None;
        read.form.refusal = Some(super::overtaken(&format!("“{name}”"), theirs).0);
    }
    read
}

/// What stands for a figure that cannot be read, so that the others can still be judged.
fn fields_least(place: usize) -> f64 {
    let range: Range = [fields::RUN_LENGTH, fields::STAND, fields::GROWTH][place].range;
    range.least
}

/// A station of which every figure that still reads as it was shown is the one that is kept.
fn left_alone(typed: &Station, kept: &Station, system: System) -> Station {
    let length = |typed: Metres, kept: Metres| {
        if shown(typed.0, system) == shown(kept.0, system) {
            kept
        } else {
            typed
        }
    };
    Station {
        offset: length(typed.offset, kept.offset),
        depth: length(typed.depth, kept.depth),
        surface: if system.speed(typed.surface) == system.speed(kept.surface) {
            kept.surface
        } else {
            typed.surface
        },
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[rstest]
    #[case("walking pace", 1.3)]
    #[case("slow_walk", 0.5)]
    #[case("30 ft in 8 s", 9.144 / 8.0)]
    #[case("12 m in 10 s", 1.2)]
    #[case("20 paces in 12,5 s", 1.2)]
    #[case("2.9 mph", 1.296)]
    fn a_surface_speed_is_read_as_people_have_it(#[case] typed: &str, #[case] metres: f64) {
        let read = surface(typed, "Surface", System::Imperial).unwrap();
        assert!((read - metres).abs() < 1e-3, "{read}");
    }

    #[rstest]
    #[case("brisk", "write a speed, a pace")]
    #[case("30 ft in a while", "the seconds of")]
    #[case("9 m in 1 s", "between 0 and 4 m/s")]
    #[case("12 mph", "too large")]
    #[case("", "write a speed, a pace")]
    fn a_surface_speed_that_cannot_be_is_said(#[case] typed: &str, #[case] says: &str) {
        let Problem(sentence) = surface(typed, "Surface", System::Imperial).unwrap_err();
        assert!(sentence.contains(says), "{sentence}");
    }

    fn alder() -> Run {
        let station = |offset, depth, surface| Station {
            offset: Metres(offset),
            depth: Metres(depth),
            surface: MetresPerSecond(surface),
        };
        Run {
            water: WaterId(3),
            name: "Alder run".into(),
            bank: Bank::Left,
            length: Metres(42.0),
            wade: Metres(2.2),
            bed: Bed::Boulders,
            growth: Metres(0.0),
            stations: vec![
                station(0.0, 0.31, 0.31),
                station(7.3, 1.77, 1.19),
                station(21.4, 0.46, 0.52),
            ],
            marks: vec![Mark {
                kind: MarkKind::Boulder,
                along: Metres(12.0),
                across: Metres(9.0),
            }],
        }
    }

    #[rstest]
    #[case(System::Imperial)]
    #[case(System::Metric)]
    fn what_is_shown_reads_back_the_same(#[case] system: System) {
        let run = alder();
        let texts = texts_of(&run, system);
        let back = read(&texts, run.water, Some(&run), system).run.unwrap();
        assert_eq!(back.stations, run.stations);
        assert_eq!((back.length, back.wade), (run.length, run.wade));
    }

    #[test]
    fn a_gauge_moves_the_speeds() {
        let run = alder();
        let now = run.section().unwrap().discharge();
        let mut texts = texts_of(&run, System::Metric);
        let twice = format!("{} m3/s", 2.0 * now.0);
        texts.insert("discharge".into(), twice);
        let higher = read(&texts, run.water, Some(&run), System::Metric)
            .run
            .unwrap();
        let ratio = higher.stations[1].surface / run.stations[1].surface;
        assert!((ratio - 2.0).abs() < 1e-6, "{ratio}");
        texts.insert("discharge".into(), "a lot".into());
        let refused = read(&texts, run.water, Some(&run), System::Metric);
        assert!(refused.run.is_none() && refused.form.discharge.problem.is_some());
    }
}
