//! A part's own page: what it is, what a caliper says, how many are left.

use crate::forms::{Typed, problem};
use crate::screens::{page, see, theme_of};
use crate::{App, Error, forms};
use actix_web::web::{Data, Form, Path};
use actix_web::{HttpRequest, HttpResponse};
use motilis_core::Range;
use motilis_core::book::limits::{COST, LEFT};
use motilis_core::book::{BoxPart, PartId};
use motilis_core::rig::{BARE, Colour, Finish, Material, Measured, Part, What};
use motilis_core::units::{GRAM, Kilograms, MILLIMETRE, Metres};
use motilis_store::trash::{Record, take_back, throw};
use motilis_store::{made, parts};
use motilis_view::draw::part::{TRUE_SIZE, lying};
use motilis_view::screens::{Choice, Field, Frame, PartForm, Screen};
use motilis_view::units::{Quantity, System};
use motilis_view::words::{self, bench as say};
use std::collections::BTreeMap;

const LENGTH: Range = Range::closed(1e-5, 1.0, "m", "between 0.01 mm and 1 m");
const WIDTH: Range = Range::closed(1e-5, 0.2, "m", "between 0.01 and 200 mm");
const THICKNESS: Range = Range::closed(1e-5, 0.02, "m", "between 0.01 and 20 mm");
const MASS: Range = Range::closed(1e-6, 5.0, "kg", "between 0.001 g and 5 kg");
const SIZE: Range = Range::closed(-10.0, 2_000.0, "", "between -10 and 2 000");

type Raw = BTreeMap<String, String>;

/// The fields of a form, each with what is wrong with it.
struct Fields<'a> {
    raw: &'a Raw,
    size: Typed,
    measured: [Typed; 6],
    left: Typed,
    low: Typed,
    cost: Typed,
    place: Field,
    refusal: Option<String>,
    /// The part with the table's figures, as far as it could be read.
    table: Option<Part>,
}

/// The form as it was typed, and the part if all of it is sound.
struct Read {
    form: PartForm,
    boxed: Option<BoxPart>,
}

/// A part as its form would be typed.
fn typed_of(boxed: &BoxPart) -> Raw {
    let part = &boxed.part;
    let own = part.own_figures();
    let (group, style) = part.what().keys();
    let flag = |flag: bool| if flag { "yes" } else { "no" }.to_owned();
    let mm = |length: Option<Metres>| {
        length.map_or_else(String::new, |length| format!("{:.4}", length / MILLIMETRE))
    };
    let trimmed = |text: String| {
        if text.contains('.') {
            text.trim_end_matches('0').trim_end_matches('.').to_owned()
        } else {
            text
        }
    };
    [
        ("what", format!("{group}/{style}")),
        ("size", part.size().to_string()),
        ("material", part.material.key().to_owned()),
        ("colour", part.finish.colour.key().to_owned()),
        ("hammered", flag(part.finish.hammered)),
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
        ("left", trimmed(format!("{:.4}", boxed.left))),
        ("low", trimmed(format!("{:.4}", boxed.low))),
        (
            "cost",
            boxed
                .unit_cost
                .map_or_else(String::new, |cost| cost.to_string()),
        ),
        ("place", boxed.place.clone()),
    ]
    .into_iter()
    .map(|(name, value)| (name.to_owned(), value))
    .collect()
}

/// Reads the form; every wrong field gets its sentence.
fn read(frame: Frame, id: Option<PartId>, raw: &Raw) -> Read {
    let mut fields = Fields::new(raw);
    let boxed = fields.boxed();
    let sound = fields.is_sound();
    let known = boxed.as_ref().map(|boxed| boxed.part);
    Read {
        form: fields.form(frame, id, known),
        boxed: boxed.filter(|_| sound),
    }
}

impl<'a> Fields<'a> {
    fn new(raw: &'a Raw) -> Self {
        let typed = |named, quantity, range| {
            let (name, _): (&str, &str) = named;
            let text = raw.get(name).map_or("", String::as_str);
            Typed::new(named, (quantity, System::Metric), range, text)
        };
        let length = |name, label, range| typed((name, label), Quantity::Bench, range);
        let count = |name, label, range| typed((name, label), Quantity::Count, range);
        Self {
            raw,
            size: count("size", "Size", SIZE),
            measured: [
                length("length", "Length", LENGTH),
                length("width", "Width, gap", WIDTH),
                length("thickness", "Thickness, wire", THICKNESS),
                length("diameter", "Diameter, eye", WIDTH),
                length("bore", "Hole", WIDTH),
                typed(("mass", "Mass"), Quantity::PartMass, MASS),
            ],
            left: count("left", "Left, pieces or metres", LEFT),
            low: count("low", "Runs short at", LEFT),
            cost: count("cost", "Cost of one or of a metre", COST),
            place: forms::text(
                "place",
                "Place",
                raw.get("place").map_or("", String::as_str),
            ),
            refusal: None,
            table: None,
        }
    }

    fn text(&self, name: &str) -> &'a str {
        self.raw.get(name).map_or("", String::as_str)
    }

    fn finish(&self, colour: &str, hammered: &str) -> Option<Finish> {
        Colour::from_key(self.text(colour)).map(|colour| Finish {
            colour,
            hammered: self.text(hammered) == "yes",
        })
    }

    /// The part as far as it could be read; what is wrong with it stands beside its field.
    fn boxed(&mut self) -> Option<BoxPart> {
        let part = self.part();
        let (left, low) = (self.left.optional(), self.low.optional());
        let unit_cost = self.cost.optional();
        let boxed = BoxPart {
            part: part?,
            left: left.unwrap_or(0.0),
            low: low.unwrap_or(0.0),
            unit_cost,
            place: self.text("place").trim().to_owned(),
        };
        if let Err(error) = boxed.check() {
            match error.quantity() {
                "place" => self.place.problem = Some(problem(&error)),
                "left_count" => self.left.field.problem = Some(problem(&error)),
                _ => self.refusal = Some(problem(&error).0),
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
        let finish = self.finish("colour", "hammered").unwrap_or(BARE);
        match Part::new(what, size, finish) {
            Ok(part) => {
                let material = Material::from_key(self.text("material")).unwrap_or(part.material);
                let part = part
                    .of(material)
                    .backed(self.finish("back", "back_hammered"));
                self.table = Some(part);
                part.measured(measured)
                    .map_err(|error| self.refusal = Some(problem(&error).0))
                    .ok()
            }
            Err(error) => {
                if self.size.field.problem.is_none() {
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
        let colour = self.text("colour");
        let materials = Material::ALL
            .iter()
            .map(|material| (material.key(), material.name()));
        let tables = self.table.map_or_else(Default::default, tables);
        PartForm {
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

async fn frame(app: &App, request: &HttpRequest) -> Result<Frame, Error> {
    let theme = theme_of(request);
    app.read(move |connection| crate::screens::frame(connection, Screen::Box, theme, "/box"))
        .await
}

/// `GET /box/parts/new`
pub(crate) async fn blank(app: Data<App>, request: HttpRequest) -> Result<HttpResponse, Error> {
    let raw: Raw = [
        ("what", "blade/colorado"),
        ("size", "4"),
        ("left", "0"),
        ("low", "0"),
    ]
    .map(|(name, value)| (name.to_owned(), value.to_owned()))
    .into();
    page(
        HttpResponse::Ok(),
        &read(frame(&app, &request).await?, None, &raw).form,
    )
}

/// `POST /box/parts/new`
pub(crate) async fn add(
    app: Data<App>,
    request: HttpRequest,
    raw: Form<Raw>,
) -> Result<HttpResponse, Error> {
    let read = read(frame(&app, &request).await?, None, &raw);
    let Some(boxed) = read.boxed else {
        return page(HttpResponse::UnprocessableEntity(), &read.form);
    };
    let tray = super::bay_of(boxed.part.what());
    app.write(move |connection| Ok::<_, Error>(parts::add(connection, &boxed)?))
        .await?;
    Ok(see(&format!("/box?tray={tray}&done=saved")))
}

/// `GET /box/parts/{part}`
pub(crate) async fn show(
    app: Data<App>,
    request: HttpRequest,
    part: Path<i64>,
) -> Result<HttpResponse, Error> {
    let id = PartId(*part);
    let boxed = app
        .read(move |connection| Ok::<_, Error>(parts::get(connection, id)?))
        .await?;
    let read = read(frame(&app, &request).await?, Some(id), &typed_of(&boxed));
    page(HttpResponse::Ok(), &read.form)
}

/// `POST /box/parts/{part}`
pub(crate) async fn save(
    app: Data<App>,
    request: HttpRequest,
    part: Path<i64>,
    raw: Form<Raw>,
) -> Result<HttpResponse, Error> {
    let id = PartId(*part);
    let before = app
        .read(move |connection| Ok::<_, Error>(parts::get(connection, id)?))
        .await?;
    // A part that a rig is threaded on stays line or wire, and the others never become it.
    let read = read(frame(&app, &request).await?, Some(id), &raw);
    let mut form = read.form;
    let Some(boxed) = read.boxed else {
        return page(HttpResponse::UnprocessableEntity(), &form);
    };
    if boxed.part.what().is_by_length() != before.part.what().is_by_length() {
        form.refusal = Some("Rigs are threaded on line and wire: add a new part instead of turning one into the other.".into());
        return page(HttpResponse::UnprocessableEntity(), &form);
    }
    let tray = super::bay_of(boxed.part.what());
    app.write(move |connection| Ok::<_, Error>(parts::update(connection, id, &boxed)?))
        .await?;
    Ok(see(&format!("/box?tray={tray}&done=saved")))
}

/// `POST /box/parts/{part}/count`
pub(crate) async fn count(
    app: Data<App>,
    request: HttpRequest,
    part: Path<i64>,
    form: Form<Raw>,
) -> Result<HttpResponse, Error> {
    let (id, now) = (PartId(*part), app.now());
    let boxed = app
        .read(move |connection| Ok::<_, Error>(parts::get(connection, id)?))
        .await?;
    let mut raw = typed_of(&boxed);
    raw.insert("left".into(), form.get("left").cloned().unwrap_or_default());
    let read = read(frame(&app, &request).await?, Some(id), &raw);
    let Some(counted) = read.boxed else {
        return page(HttpResponse::UnprocessableEntity(), &read.form);
    };
    let tray = super::bay_of(counted.part.what());
    let deed = app
        .write(move |connection| Ok::<_, Error>(made::count(connection, id, counted.left, now)?))
        .await?;
    Ok(see(&format!(
        "/box?tray={tray}&done=counted&deed={}",
        deed.0
    )))
}

/// `POST /box/parts/{part}/delete`
pub(crate) async fn delete(app: Data<App>, part: Path<i64>) -> Result<HttpResponse, Error> {
    let (id, now) = (PartId(*part), app.now());
    app.write(move |connection| Ok::<_, Error>(throw(connection, Record::Part(id), now)?))
        .await?;
    Ok(see(&format!("/box?gone=part-{}", id.0)))
}

/// `POST /box/parts/{part}/restore`
pub(crate) async fn restore(app: Data<App>, part: Path<i64>) -> Result<HttpResponse, Error> {
    let id = PartId(*part);
    app.write(move |connection| Ok::<_, Error>(take_back(connection, Record::Part(id))?))
        .await?;
    Ok(see(&format!("/box/parts/{}", id.0)))
}
