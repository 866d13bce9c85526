//! The course a spread is towed along.

use super::Typed;
use crate::screens::{Choice, CourseForm};
use crate::units::{Problem, Quantity, System};
use motilis_core::fields;
use motilis_core::motion::Course;
use motilis_core::spread::Side;
use motilis_core::units::Metres;
use serde::Deserialize;

/// The form as it was sent.
#[derive(Debug, Default, Clone, Deserialize)]
#[serde(default)]
pub struct RawCourse {
    course: String,
    bend: String,
    minutes: String,
}

/// What was asked for.
#[derive(Debug, Clone, Copy)]
pub struct Asked {
    /// What the boat does.
    pub course: Course,
    /// For how long, s.
    pub seconds: f64,
}

const COURSES: [(&str, &str); 7] = [
    ("s_turns", "S-turns"),
    ("port", "circle to port"),
    ("starboard", "circle to starboard"),
    ("pulses", "faster and slower"),
    ("stop", "stop and go"),
    ("fish", "fish on, slowed down"),
    ("straight", "straight on"),
];

/// The form to begin with.
/// No bend of it is tighter than the least that every line bears.
pub(crate) fn form(system: System, least: Option<Metres>) -> CourseForm {
    let mut form = read(&RawCourse::default(), system, true).0;
    let unit = Quantity::Depth.unit(system);
    let radius = least.map_or(0.0, |least| unit.from_si(1.05 * least.0));
    let usual = if system == System::Imperial {
        65.0
    } else {
        20.0
    };
    let round = (radius.max(usual) / 5.0).ceil() * 5.0;
    for field in &mut form.fields {
        if field.name == fields::BEND_RADIUS.form {
            field.value = format!("{round}");
        }
    }
    form
}

/// The form as typed, and what it asks for when nothing is wrong with it.
pub fn read(raw: &RawCourse, system: System, blank: bool) -> (CourseForm, Option<Asked>) {
    let chosen = if raw.course.is_empty() {
        "s_turns"
    } else {
        &raw.course
    };
    let mut bend = Typed::new(
        fields::BEND_RADIUS,
        "Radius of its bends",
        (Quantity::Depth, system),
        &raw.bend,
    );
    let mut minutes = Typed::new(
        fields::MINUTES,
        "Minutes",
        (Quantity::Count, system),
        &raw.minutes,
    );
    if blank {
        bend.fill(20.0);
        minutes.fill(2.0);
    }
    let radius = Metres(bend.or(20.0));
    let seconds = 60.0 * minutes.or(2.0);
    let course = match chosen {
        "s_turns" => Some(Course::STurns {
            radius,
            angle_deg: 60.0,
        }),
        "port" => Some(Course::Circle {
            radius,
            to: Side::Port,
        }),
        "starboard" => Some(Course::Circle {
            radius,
            to: Side::Starboard,
        }),
        "pulses" => Some(Course::Pulses {
            share: 0.3,
            every_s: 20.0,
        }),
        "stop" => Some(Course::StopAndGo {
            go_s: 30.0,
            stop_s: 15.0,
        }),
        "fish" => Some(Course::FishOn { share: 0.4 }),
        "straight" => Some(Course::Straight),
        _ => None,
    };
    if course.is_none() {
        minutes.field.problem = Some(Problem(
            "There is no such course; choose one of the list.".into(),
        ));
    }
    let sound = bend.field.problem.is_none() && minutes.field.problem.is_none();
    let form = CourseForm {
        course: Choice::list(COURSES, chosen),
        fields: vec![bend.field, minutes.field],
    };
    let asked = course
        .filter(|_| sound)
        .map(|course| Asked { course, seconds });
    (form, asked)
}
