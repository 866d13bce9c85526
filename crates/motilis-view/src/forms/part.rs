//! A part's own page: what it is, what a caliper says, how many are left.

use super::{Texts as Raw, Typed, base, merge, overtaken, problem, text};
use crate::draw::part::{TRUE_SIZE, lying};
use crate::screens::{Choice, Field, Frame, PartForm};
use crate::units::{Quantity, System};
use crate::words::{self, bench as say};
use motilis_core::book::{BoxPart, PartId};
use motilis_core::fields;
use motilis_core::rig::{BARE, Colour, Finish, Material, Measured, Over, Part, What};
use motilis_core::units::{GRAM, Kilograms, MILLIMETRE, Metres};

/// The fields of a form, each with what is wrong with it.
struct Fields<'a> {
    raw: &'a Raw,
    size: Typed,
    measured: [Typed; 6],
    left: Typed,
    low: Typed,
    cost: Typed,
    /// Pieces, or metres, that the cost is of.
    per: f64,
    place: Field,
    size_name: Field,
    refusal: Option<String>,
    /// The part with the table's figures, as far as it could be read.
    table: Option<Part>,
}

/// The form as it was typed, and the part if all of it is sound.
pub struct Read {
    /// The form.
    pub form: PartForm,
    /// The part.
    pub boxed: Option<BoxPart>,
}

/// A part as its form would be typed.
pub fn typed_of(boxed: &BoxPart, system: System) -> Raw {
    let part = &boxed.part;
    let stock = stock_quantity(part.what()).unit(system);
    let own = part.own_figures();
    let (group, style) = part.what().keys();
    let flag = |flag: bool| if flag { "yes" } else { "no" }.to_owned();
    let mm = |length: Option<Metres>| {
        length.map_or_else(String::new, |length| format!("{:.4}", length / MILLIMETRE))
    };
    [
        ("what", format!("{group}/{style}")),
        ("size", part.size().to_string()),
        ("material", part.material.key().to_owned()),
        ("colour", part.finish.colour.key().to_owned()),
        ("hammered", flag(part.finish.hammered)),
        ("over", over_colour(Some(part.finish))),
        ("over_share", over_share(Some(part.finish))),
        ("back_over", over_colour(part.back)),
        ("back_over_share", over_share(part.back)),
        ("size_name", boxed.size_name.clone()),
        (
            "back",
            part.back
                .map_or_else(String::new, |back| back.colour.key().to_owned()),
        ),
        (
            "back_hammered",
            flag(part.back.is_some_and(|back| back.hammered)),
        ),
        ("length", trimmed(mm(own.length))),
        ("width", trimmed(mm(own.width))),
        ("thickness", trimmed(mm(own.thickness))),
        ("diameter", trimmed(mm(own.diameter))),
        ("bore", trimmed(mm(own.bore))),
        (
            "mass",
            own.mass
                .map_or_else(String::new, |mass| trimmed(format!("{:.4}", mass / GRAM))),
        ),
        ("left", left_typed(boxed, system)),
        ("low", trimmed(format!("{:.4}", stock.from_si(boxed.low)))),
        (
            "cost",
            boxed.unit_cost.map_or_else(String::new, |cost| {
                trimmed(format!("{:.4}", cost * stock.to_si(1.0)))
            }),
        ),
        ("place", boxed.place.clone()),
    ]
    .into_iter()
    .map(|(name, value)| (name.to_owned(), value))
    .collect()
}

/// The form of a new part.
pub fn blank() -> Raw {
    [
        ("what", "blade/colorado"),
        ("size", "4"),
        ("left", "0"),
        ("low", "0"),
    ]
    .map(|(name, value)| (name.to_owned(), value.to_owned()))
    .into()
}

/// Reads the form; every wrong field gets its sentence.
pub fn read(frame: Frame, id: Option<PartId>, raw: &Raw) -> Read {
    let mut fields = Fields::new(raw, frame.system);
    let boxed = fields.boxed();
    let sound = fields.is_sound();
    let known = boxed.as_ref().map(|boxed| boxed.part);
    Read {
        form: fields.form(frame, id, known),
        boxed: boxed.filter(|_| sound),
    }
}

/// The form of a part as it is kept.
pub fn shown(frame: Frame, id: PartId, kept: &BoxPart) -> PartForm {
    let texts = typed_of(kept, frame.system);
    PartForm {
        base: base(&texts),
        ..read(frame, Some(id), &texts).form
    }
}

/// Reads a form, or the one field of it that was sent, held against the part as it is kept.
pub fn read_over(
    frame: Frame,
    id: PartId,
    sent: &Raw,
    shown_before: Option<&str>,
    kept: &BoxPart,
) -> Read {
    let now = typed_of(kept, frame.system);
    let merged = merge(sent, shown_before, &now);
    let mut read = read(frame, Some(id), &merged.texts);
    for (name, theirs) in &merged.conflicts {
        let measured = read.form.measured.iter_mut().map(|(field, _)| field);
        let mut fields = measured
            .chain(&mut read.form.stock)
            .chain([&mut read.form.size, &mut read.form.size_name]);
        let found = fields.find(|field| field.name == name);
        match found {
            Some(field) => field.problem = Some(overtaken(field.label, theirs)),
            None => read.form.refusal = Some(overtaken("A list", theirs).0),
        }
        read.boxed = None;
    }
    // A part that a rig is threaded on stays line or wire, and the others never become it.
    let by_length = |boxed: &BoxPart| boxed.part.what().is_by_length();
    if read
        .boxed
        .as_ref()
        .is_some_and(|boxed| by_length(boxed) != by_length(kept))
    {
        read.form.refusal = Some("Rigs are threaded on line and wire: add a new part instead of turning one into the other.".into());
        read.boxed = None;
    }
    if let Some(boxed) = &mut read.boxed {
        // What was left alone stays to the last digit, in whatever unit it was shown.
        let same = |name: &str| merged.texts.get(name) == now.get(name);
        boxed.left = if same("left") { kept.left } else { boxed.left };
        boxed.low = if same("low") { kept.low } else { boxed.low };
        if same("cost") {
            boxed.unit_cost = kept.unit_cost;
        }
    }
    read.form.base = base(&now);
    read
}

impl<'a> Fields<'a> {
    fn new(raw: &'a Raw, system: System) -> Self {
        let typed = |asked: fields::Field, label, quantity| {
            let text = raw.get(asked.form).map_or("", String::as_str);
            Typed::new(asked, label, (quantity, System::Metric), text)
        };
        let length = |asked, label| typed(asked, label, Quantity::Bench);
        let count = |asked, label| typed(asked, label, Quantity::Count);
        let style = raw.get("what").and_then(|what| what.split_once('/'));
        let what = style.and_then(|(group, style)| What::from_keys(group, style));
        let quantity = what.map_or(Quantity::Count, stock_quantity);
        let stock = |asked: fields::Field, label| {
            let text = raw.get(asked.form).map_or("", String::as_str);
            Typed::new(asked, label, (quantity, system), text)
        };
        let (left, each) = match (quantity, system) {
            (Quantity::Count, _) => ("Left, pieces", "Cost of one"),
            (_, System::Imperial) => ("Left on the spool", "Cost of a foot"),
            (_, System::Metric) => ("Left on the spool", "Cost of a metre"),
        };
        Self {
            raw,
            size: count(fields::SIZE, "Size"),
            measured: [
                length(fields::PART_LENGTH, "Length"),
                length(fields::PART_WIDTH, "Width, gap"),
                length(fields::PART_THICKNESS, "Thickness, wire"),
                length(fields::PART_DIAMETER, "Diameter, eye"),
                length(fields::PART_BORE, "Hole"),
                typed(fields::PART_MASS, "Mass", Quantity::PartMass),
            ],
            left: stock(fields::LEFT, left),
            low: stock(fields::LOW, "Runs short at"),
            cost: count(fields::COST, each),
            per: quantity.unit(system).to_si(1.0),
            place: text(
                "place",
                "Place",
                raw.get("place").map_or("", String::as_str),
            ),
            size_name: text(
                "size_name",
                "Your name of the size",
                raw.get("size_name").map_or("", String::as_str),
            ),
            refusal: None,
            table: None,
        }
    }

    fn text(&self, name: &str) -> &'a str {
        self.raw.get(name).map_or("", String::as_str)
    }

    /// One side: `colour`, or `back` for the other.
    fn finish(&self, colour: &str, side: &str) -> Option<Finish> {
        let text = |name: &str| self.text(&format!("{side}{name}"));
        let over = Colour::from_key(text("over")).map(|colour| Over {
            colour,
            share: text("over_share").parse().ok(),
        });
        Colour::from_key(self.text(colour)).map(|colour| Finish {
            colour,
            hammered: text("hammered") == "yes",
            over,
        })
    }

    /// The part as far as it could be read; what is wrong with it stands beside its field.
    fn boxed(&mut self) -> Option<BoxPart> {
        let part = self.part();
        let (left, low) = (self.left.optional(), self.low.optional());
        let unit_cost = self.cost.optional().map(|cost| cost / self.per);
        let boxed = BoxPart {
            part: part?,
            left: left.unwrap_or(0.0),
            low: low.unwrap_or(0.0),
            unit_cost,
            place: self.text("place").trim().to_owned(),
            size_name: self.text("size_name").trim().to_owned(),
        };
        if let Err(error) = boxed.check() {
            let figures = self
                .measured
                .iter_mut()
                .chain([&mut self.left, &mut self.low]);
            let meant = figures.into_iter().find(|typed| typed.is_meant(&error));
            match (error.quantity(), meant) {
                ("size_name", _) => self.size_name.problem = Some(problem(&error)),
                ("place", _) => self.place.problem = Some(problem(&error)),
                (_, Some(typed)) => typed.field.problem = Some(problem(&error)),
                (_, None) => self.refusal = Some(problem(&error).0),
            }
        }
        Some(boxed)
    }

    fn part(&mut self) -> Option<Part> {
        let size = self.size.or(f64::NAN);
        let [length, width, thickness, diameter, bore, mass] =
            self.measured.each_mut().map(Typed::optional);
        let measured = Measured {
            length: length.map(Metres),
            width: width.map(Metres),
            thickness: thickness.map(Metres),
            diameter: diameter.map(Metres),
            bore: bore.map(Metres),
            mass: mass.map(Kilograms),
        };
        let (group, style) = self.text("what").split_once('/').unwrap_or_default();
        let Some(what) = What::from_keys(group, style) else {
            self.refusal = Some("There is no such part; choose one of the list.".to_owned());
            return None;
        };
        let finish = self.finish("colour", "").unwrap_or(BARE);
        match Part::new(what, size, finish) {
            Ok(part) => {
                let material = Material::from_key(self.text("material")).unwrap_or(part.material);
                let part = part.of(material).backed(self.finish("back", "back_"));
                self.table = Some(part);
                part.measured(measured)
                    .map_err(|error| self.refusal = Some(problem(&error).0))
                    .ok()
            }
            Err(error) => {
                if error.quantity() == "over" {
                    self.refusal = Some(problem(&error).0);
                } else if self.size.field.problem.is_none() {
                    self.size.field.problem = Some(problem(&error));
                }
                None
            }
        }
    }

    fn is_sound(&self) -> bool {
        let typed = [&self.size, &self.left, &self.low, &self.cost];
        let mut fields = typed
            .into_iter()
            .chain(&self.measured)
            .map(|typed| &typed.field);
        self.refusal.is_none()
            && self.place.problem.is_none()
            && self.size_name.problem.is_none()
            && fields.all(|field| field.problem.is_none())
    }

    fn form(self, frame: Frame, id: Option<PartId>, known: Option<Part>) -> PartForm {
        let colours = || {
            Colour::ALL
                .iter()
                .map(|colour| (colour.key(), colour.name()))
        };
        let surface = |field: &str| {
            let chosen = if self.text(field) == "yes" {
                "yes"
            } else {
                "no"
            };
            Choice::list([("no", "smooth"), ("yes", "hammered")], chosen)
        };
        let over = |field: &str| {
            let none = std::iter::once(("", "nothing"));
            Choice::list(none.chain(colours()), self.text(field))
        };
        let share = |field: &str| {
            let shares = [10, 20, 30, 40, 50].map(|share| share.to_string());
            let chosen = self.text(field);
            let own =
                Some(chosen.to_owned()).filter(|own| !own.is_empty() && !shares.contains(own));
            std::iter::once(Choice {
                value: String::new(),
                label: "clear lacquer, all of it".to_owned(),
                chosen: chosen.is_empty(),
            })
            .chain(shares.into_iter().chain(own).map(|share| Choice {
                label: format!("{share} % of it"),
                chosen: share == chosen,
                value: share,
            }))
            .collect()
        };
        let colour = self.text("colour");
        let materials = Material::ALL
            .iter()
            .map(|material| (material.key(), material.name()));
        let tables = self.table.map_or_else(Default::default, tables);
        PartForm {
            base: String::new(),
            frame,
            id: id.map(|id| id.0),
            name: known.map_or_else(
                || "New part".to_owned(),
                |part| words::capital(&say::part(&part)),
            ),
            drawing: known.map(|part| lying(&part, TRUE_SIZE)),
            what: kinds(self.text("what")),
            material: Choice::list(
                [("", "as usual")].into_iter().chain(materials),
                self.text("material"),
            ),
            colour: Choice::list(
                colours(),
                if colour.is_empty() {
                    BARE.colour.key()
                } else {
                    colour
                },
            ),
            hammered: surface("hammered"),
            back: Choice::list(
                [("", "like the face")].into_iter().chain(colours()),
                self.text("back"),
            ),
            back_hammered: surface("back_hammered"),
            over: over("over"),
            over_share: share("over_share"),
            back_over: over("back_over"),
            back_over_share: share("back_over_share"),
            size_name: self.size_name,
            size: self.size.field,
            measured: self
                .measured
                .into_iter()
                .map(|typed| typed.field)
                .zip(tables)
                .collect(),
            stock: vec![self.left.field, self.low.field, self.cost.field, self.place],
            refusal: self.refusal,
        }
    }
}

/// What is left, as its field has it.
pub(crate) fn left_typed(boxed: &BoxPart, system: System) -> String {
    let unit = stock_quantity(boxed.part.what()).unit(system);
    trimmed(format!("{:.4}", unit.from_si(boxed.left)))
}

/// Without idle zeros behind the point.
fn trimmed(text: String) -> String {
    if text.contains('.') {
        text.trim_end_matches('0').trim_end_matches('.').to_owned()
    } else {
        text
    }
}

/// What is left of a part is counted in pieces, or measured along the spool.
fn stock_quantity(what: What) -> Quantity {
    if what.is_by_length() {
        Quantity::Depth
    } else {
        Quantity::Count
    }
}

/// The colour over a side, as the form has it.
fn over_colour(side: Option<Finish>) -> String {
    let over = side.and_then(|side| side.over);
    over.map_or_else(String::new, |over| over.colour.key().to_owned())
}

/// The share of a side it covers.
fn over_share(side: Option<Finish>) -> String {
    let share = side.and_then(|side| side.over?.share);
    share.map_or_else(String::new, |share| share.to_string())
}

/// What the tables say of a part, figure by figure.
fn tables(part: Part) -> [String; 6] {
    let mm = |length: Metres| format!("table: {:.2} mm", length / MILLIMETRE);
    [
        mm(part.length()),
        mm(part.width()),
        mm(part.thickness()),
        mm(part.diameter()),
        mm(part.bore()),
        format!("table: {:.2} g", part.mass() / GRAM),
    ]
}

/// Every kind of part to choose from.
fn kinds(chosen: &str) -> Vec<Choice> {
    What::all()
        .map(|what| {
            let (group, style) = what.keys();
            let value = format!("{group}/{style}");
            let name = words::capital(what.name());
            Choice {
                label: match what {
                    What::Blade(_) => format!("{name} blade"),
                    What::Hook(_) => format!("{name} hook"),
                    What::Line(_) => format!("{name} line"),
                    _ => name,
                },
                chosen: value == chosen,
                value,
            }
        })
        .collect()
}
