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

/// The form as it was typed, with what it means as far as that could be read.
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
    let text = |name: &str| raw.get(name).map_or("", String::as_str);
    let field = |named, quantity, range, name: &str| {
        Typed::new(named, (quantity, System::Metric), range, text(name))
    };
    let mut size = field(("size", "Size"), Quantity::Count, SIZE, "size");
    let size_value = size.or(f64::NAN);
    let mut lengths = [
        ("length", "Length", LENGTH),
        ("width", "Width, gap", WIDTH),
        ("thickness", "Thickness, wire", THICKNESS),
        ("diameter", "Diameter, eye", WIDTH),
        ("bore", "Hole", WIDTH),
    ]
    .map(|(name, label, range)| field((name, label), Quantity::Bench, range, name));
    let [length, width, thickness, diameter, bore] =
        lengths.each_mut().map(|typed| typed.optional().map(Metres));
    let mut mass = field(("mass", "Mass"), Quantity::PartMass, MASS, "mass");
    let measured = Measured {
        length,
        width,
        thickness,
        diameter,
        bore,
        mass: mass.optional().map(Kilograms),
    };
    let mut left = field(
        ("left", "Left, pieces or metres"),
        Quantity::Count,
        LEFT,
        "left",
    );
    let mut low = field(("low", "Runs short at"), Quantity::Count, LEFT, "low");
    let mut cost = field(
        ("cost", "Cost of one or of a metre"),
        Quantity::Count,
        COST,
        "cost",
    );
    let stock = (
        left.optional().unwrap_or(0.0),
        low.optional().unwrap_or(0.0),
        cost.optional(),
    );
    let mut place = forms::text("place", "Place", text("place"));

    let (group, style) = text("what").split_once('/').unwrap_or_default();
    let what = What::from_keys(group, style);
    let material = Material::from_key(text("material"));
    let finish = |colour: &str, hammered: &str| {
        Colour::from_key(text(colour)).map(|colour| Finish {
            colour,
            hammered: text(hammered) == "yes",
        })
    };
    let mut refusal = None;
    let mut table = None;
    let mut boxed = None;
    if let Some(what) = what {
        let fresh = Part::new(
            what,
            size_value,
            finish("colour", "hammered").unwrap_or(BARE),
        );
        match fresh {
            Ok(part) => {
                let part = part
                    .of(material.unwrap_or(part.material))
                    .backed(finish("back", "back_hammered"));
                table = Some(part);
                match part.measured(measured) {
                    Ok(part) => {
                        let (left, low, unit_cost) = stock;
                        boxed = Some(BoxPart {
                            part,
                            left,
                            low,
                            unit_cost,
                            place: text("place").trim().to_owned(),
                        });
                    }
                    Err(error) => refusal = Some(problem(&error).0),
                }
            }
            Err(error) if size.field.problem.is_none() => {
                size.field.problem = Some(problem(&error))
            }
            Err(_) => {}
        }
    } else {
        refusal = Some("There is no such part; choose one of the list.".to_owned());
    }
    if let Some(Err(error)) = boxed.as_ref().map(BoxPart::check) {
        match error.quantity() {
            "place" => place.problem = Some(problem(&error)),
            "left_count" => left.field.problem = Some(problem(&error)),
            _ => refusal = Some(problem(&error).0),
        }
    }
    let from_table = |show: &dyn Fn(&Part) -> String| {
        table
            .as_ref()
            .map_or_else(String::new, |part| format!("table: {}", show(part)))
    };
    let mm = |length: Metres| format!("{:.2} mm", length / MILLIMETRE);
    let tables = [
        from_table(&|part| mm(part.length())),
        from_table(&|part| mm(part.width())),
        from_table(&|part| mm(part.thickness())),
        from_table(&|part| mm(part.diameter())),
        from_table(&|part| mm(part.bore())),
        from_table(&|part| format!("{:.2} g", part.mass() / GRAM)),
    ];
    let measured_fields: Vec<Field> = lengths
        .into_iter()
        .map(|typed| typed.field)
        .chain([mass.field])
        .collect();
    let stock_fields = vec![left.field, low.field, cost.field, place];
    let sound = refusal.is_none()
        && size.field.problem.is_none()
        && measured_fields
            .iter()
            .chain(&stock_fields)
            .all(|field| field.problem.is_none());
    let colours = || {
        Colour::ALL
            .iter()
            .map(|colour| (colour.key(), colour.name()))
    };
    let surface = |chosen: &str| {
        Choice::list(
            [("no", "smooth"), ("yes", "hammered")],
            if chosen == "yes" { "yes" } else { "no" },
        )
    };
    let known = boxed.as_ref().map(|boxed| boxed.part);
    let form = PartForm {
        frame,
        id: id.map(|id| id.0),
        name: known.map_or_else(
            || "New part".to_owned(),
            |part| words::capital(&say::part(&part)),
        ),
        drawing: known.map(|part| lying(&part, TRUE_SIZE)),
        what: What::all()
            .map(|what| {
                let (group, style) = what.keys();
                let value = format!("{group}/{style}");
                Choice {
                    label: match what {
                        What::Blade(_) => format!("{} blade", words::capital(what.name())),
                        What::Hook(_) => format!("{} hook", words::capital(what.name())),
                        What::Line(_) => format!("{} line", words::capital(what.name())),
                        _ => words::capital(what.name()),
                    },
                    chosen: value == text("what"),
                    value,
                }
            })
            .collect(),
        size: size.field,
        material: {
            let mut all = vec![("", "as usual")];
            all.extend(
                Material::ALL
                    .iter()
                    .map(|material| (material.key(), material.name())),
            );
            Choice::list(all, text("material"))
        },
        colour: Choice::list(
            colours(),
            if text("colour").is_empty() {
                "NI"
            } else {
                text("colour")
            },
        ),
        hammered: surface(text("hammered")),
        back: Choice::list(
            [("", "like the face")].into_iter().chain(colours()),
            text("back"),
        ),
        back_hammered: surface(text("back_hammered")),
        measured: measured_fields.into_iter().zip(tables).collect(),
        stock: stock_fields,
        refusal,
    };
    Read {
        form,
        boxed: boxed.filter(|_| sound),
    }
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
