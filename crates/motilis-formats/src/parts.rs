use crate::quoted;
use motilis_core::book::{BoxPart, PartId, plain_text};
use motilis_core::rig::{Colour, Finish, Material, Measured, Over, Part, What};
use motilis_core::units::{Kilograms, Metres};
use serde_json::{Map, Value};
use std::collections::{BTreeMap, HashMap};
use thiserror::Error;

/// Largest file that is read, bytes: some thirty thousand parts.
pub const MOST_BYTES: usize = 4 * 1024 * 1024;

/// The fields of a record, in the order of the columns.
///
/// `id` (number in the box; empty for a new part), `part` and `style` (what it is: `blade`,
/// `colorado`), `size` (the trade's count: number, mm, g, lb, in; hooks 1/0 as −1), `material`, `colour`
/// and `back_colour` (two letters), `hammered` and `back_hammered` (`yes`, `no`), measured figures
/// (`length_m` to `mass_kg`; empty for the table's), `left_count` and `low_count` (pieces, metres of line
/// and wire), `unit_cost`, `place`, `over` and `back_over` (what lies over face and back: `RD` red lacquer, `BK 30` black on
/// 30 per cent), `size_name` (the angler's own name of the size).
pub const FIELDS: [&str; 22] = [
    "id",
    "part",
    "style",
    "size",
    "material",
    "colour",
    "hammered",
    "back_colour",
    "back_hammered",
    "length_m",
    "width_m",
    "thickness_m",
    "diameter_m",
    "bore_m",
    "mass_kg",
    "left_count",
    "low_count",
    "unit_cost",
    "place",
    "over",
    "back_over",
    "size_name",
];

/// Fields that every file must have.
const NEEDED: [&str; 3] = ["part", "style", "size"];

/// CSV or JSON.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Format {
    /// Comma-separated values (RFC 4180), UTF-8, a header line.
    Csv,
    /// `{"parts": [ … ]}`.
    Json,
}

/// Why a file is not read at all.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[non_exhaustive]
pub enum Refusal {
    /// Too large.
    #[error("the file has {0} bytes; at most {MOST_BYTES} are read, about thirty thousand parts")]
    TooLarge(usize),
    /// No text.
    #[error("the file is no text: byte {0} is not UTF-8; save it as CSV in UTF-8, or as JSON")]
    NotText(usize),
    /// Nothing in it.
    #[error("the file is empty; its first line names the fields: part,style,size,…")]
    Empty,
    /// A column nobody knows.
    #[error("line 1: there is no field {0:?}; the fields are {known}", known = FIELDS.join(", "))]
    UnknownField(String),
    /// A column that is missing.
    #[error("line 1: the field {0:?} is missing; a file needs part, style and size")]
    MissingField(&'static str),
    /// A column twice.
    #[error("line 1: the field {0:?} stands there twice")]
    FieldTwice(String),
    /// A quote that is never closed, or a record of another length.
    #[error("line {line}: {what}")]
    Broken {
        /// Where.
        line: u64,
        /// What.
        what: String,
    },
    /// Not JSON.
    #[error("line {line}: the file is not JSON: {what}")]
    NotJson {
        /// Where.
        line: u64,
        /// What.
        what: String,
    },
}

/// What is wrong with one field of a record.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct FieldProblem {
    /// The field.
    pub field: String,
    /// What is wrong and what would be right.
    pub message: String,
}

/// One record of a file.
#[derive(Debug, Clone, PartialEq)]
pub struct Record {
    /// Line of a CSV file; place in the list of a JSON file, from 1.
    pub line: u64,
    /// Its number in the box, if it has one.
    pub id: Option<PartId>,
    /// The part, or what is wrong.
    pub part: Result<BoxPart, Vec<FieldProblem>>,
}

/// A whole file.
#[derive(Debug, Clone, PartialEq)]
pub struct Reading {
    /// Its records in order.
    pub records: Vec<Record>,
}

impl Reading {
    /// The parts, if every record is sound.
    pub fn sound(&self) -> Option<Vec<(Option<PartId>, &BoxPart)>> {
        self.records
            .iter()
            .map(|record| Some((record.id, record.part.as_ref().ok()?)))
            .collect()
    }
}

/// The box as a file.
pub fn write(parts: &[(PartId, BoxPart)], format: Format) -> String {
    match format {
        Format::Csv => {
            let records = parts
                .iter()
                .map(|(id, boxed)| fields(*id, boxed).map(|(_, value)| value.text()));
            table(FIELDS, records)
        }
        Format::Json => {
            let records: Vec<Value> = parts
                .iter()
                .map(|(id, boxed)| {
                    let known = fields(*id, boxed)
                        .into_iter()
                        .filter(|(_, value)| *value != Field::None);
                    let map: Map<String, Value> = known
                        .map(|(name, value)| (name.to_owned(), value.json()))
                        .collect();
                    Value::Object(map)
                })
                .collect();
            let whole = serde_json::json!({ "parts": records });
            serde_json::to_string_pretty(&whole).expect("texts and finite figures can be written")
        }
    }
}

/// A table as CSV: heads, then records.
pub fn table<const N: usize>(
    heads: [&str; N],
    records: impl IntoIterator<Item = [String; N]>,
) -> String {
    let mut writer = csv::Writer::from_writer(Vec::new());
    let mut put = |record: [String; N]| {
        writer
            .write_record(record)
            .expect("a record of texts goes into memory");
    };
    put(heads.map(str::to_owned));
    records.into_iter().for_each(&mut put);
    let bytes = writer.into_inner().expect("memory takes everything");
    String::from_utf8(bytes).expect("texts stay texts")
}

/// The value of a field on its way out.
#[derive(Debug, Clone, PartialEq)]
enum Field {
    None,
    Text(String),
    Figure(f64),
    Flag(bool),
}

impl Field {
    fn text(self) -> String {
        match self {
            Self::None => String::new(),
            Self::Text(text) => text,
            Self::Figure(figure) => figure.to_string(),
            Self::Flag(flag) => if flag { "yes" } else { "no" }.to_owned(),
        }
    }

    fn json(self) -> Value {
        match self {
            Self::None => Value::Null,
            Self::Text(text) => text.into(),
            Self::Figure(figure) => figure.into(),
            Self::Flag(flag) => flag.into(),
        }
    }
}

fn fields(id: PartId, boxed: &BoxPart) -> [(&'static str, Field); 22] {
    let part = &boxed.part;
    let (group, style) = part.what().keys();
    let own = part.own_figures();
    let text = |text: &str| Field::Text(text.to_owned());
    let figure = |figure: Option<f64>| figure.map_or(Field::None, Field::Figure);
    let metres = |length: Option<Metres>| figure(length.map(|length| length.0));
    let over = |finish: Option<Finish>| {
        let over = finish.and_then(|finish| finish.over);
        over.map_or(Field::None, |over| Field::Text(over.key()))
    };
    let values = [
        Field::Text(id.0.to_string()),
        text(group),
        text(style),
        Field::Figure(part.size()),
        text(part.material.key()),
        text(part.finish.colour.key()),
        Field::Flag(part.finish.hammered),
        part.back
            .map_or(Field::None, |back| text(back.colour.key())),
        part.back
            .map_or(Field::None, |back| Field::Flag(back.hammered)),
        metres(own.length),
        metres(own.width),
        metres(own.thickness),
        metres(own.diameter),
        metres(own.bore),
        figure(own.mass.map(|mass| mass.0)),
        Field::Figure(boxed.left),
        Field::Figure(boxed.low),
        figure(boxed.unit_cost),
        text(&boxed.place),
        over(Some(part.finish)),
        over(part.back),
        text(&boxed.size_name),
    ];
    std::array::from_fn(|at| (FIELDS[at], values[at].clone()))
}

/// Reads a file; every record is looked at, whatever is wrong with the ones before it.
///
/// # Errors
/// [`Refusal`] for a file that holds no records to look at.
pub fn read(bytes: &[u8], format: Format) -> Result<Reading, Refusal> {
    if bytes.len() > MOST_BYTES {
        return Err(Refusal::TooLarge(bytes.len()));
    }
    let text =
        std::str::from_utf8(bytes).map_err(|error| Refusal::NotText(error.valid_up_to() + 1))?;
    let text = text.strip_prefix('\u{feff}').unwrap_or(text);
    if text.trim().is_empty() {
        return Err(Refusal::Empty);
    }
    if let Some(at) = text.find('\0') {
        return Err(Refusal::NotText(at + 1));
    }
    let raw = match format {
        Format::Csv => csv_records(text)?,
        Format::Json => json_records(text)?,
    };
    let mut seen: HashMap<i64, u64> = HashMap::new();
    let records = raw
        .into_iter()
        .map(|(line, values)| {
            let (id, mut part) = record(&values);
            if let Some(id) = id {
                if let Some(first) = seen.get(&id.0) {
                    let problem = FieldProblem {
                        field: "id".into(),
                        message: format!("number {} stands on line {first} already", id.0),
                    };
                    match &mut part {
                        Ok(_) => part = Err(vec![problem]),
                        Err(problems) => problems.push(problem),
                    }
                } else {
                    seen.insert(id.0, line);
                }
            }
            Record { line, id, part }
        })
        .collect();
    Ok(Reading { records })
}

type Raw = (u64, BTreeMap<String, String>);

fn csv_records(text: &str) -> Result<Vec<Raw>, Refusal> {
    if !text.matches('"').count().is_multiple_of(2) {
        let line = text
            .lines()
            .scan(0, |quotes, line| {
                *quotes += line.matches('"').count();
                Some(*quotes % 2)
            })
            .collect::<Vec<_>>()
            .iter()
            .rposition(|odd| *odd == 0)
            .map_or(1, |last_even| last_even as u64 + 2);
        return Err(Refusal::Broken {
            line,
            what: "a quote is opened and never closed".into(),
        });
    }
    let mut reader = csv::ReaderBuilder::new()
        .flexible(true)
        .from_reader(text.as_bytes());
    let broken = |error: csv::Error| Refusal::Broken {
        line: error.position().map_or(1, csv::Position::line),
        what: error.to_string(),
    };
    let heads: Vec<String> = reader
        .headers()
        .map_err(broken)?
        .iter()
        .map(|head| head.trim().to_lowercase())
        .collect();
    for (place, head) in heads.iter().enumerate() {
        if !FIELDS.contains(&head.as_str()) {
            return Err(Refusal::UnknownField(head.clone()));
        }
        if heads[..place].contains(head) {
            return Err(Refusal::FieldTwice(head.clone()));
        }
    }
    if let Some(missing) = NEEDED
        .into_iter()
        .find(|needed| !heads.iter().any(|head| head == needed))
    {
        return Err(Refusal::MissingField(missing));
    }
    let mut records = Vec::new();
    let (mut line, mut counted) = (1, 0);
    for row in reader.records() {
        let row = row.map_err(broken)?;
        let byte = row.position().map_or(0, |place| place.byte() as usize);
        line += lines_to(text, counted, byte);
        counted = counted.max(start_of(text, byte));
        if row.len() != heads.len() {
            return Err(Refusal::Broken {
                line,
                what: format!("{} values stand under {} fields", row.len(), heads.len()),
            });
        }
        let values = heads
            .iter()
            .cloned()
            .zip(row.iter().map(str::to_owned))
            .collect();
        records.push((line, values));
    }
    Ok(records)
}

/// Where a record really starts that a reader places at a byte: behind the empty lines before it.
fn start_of(text: &str, byte: usize) -> usize {
    let rest = text.get(byte..).unwrap_or_default();
    byte + (rest.len() - rest.trim_start_matches(['\r', '\n']).len())
}

/// Line ends between a byte that was counted to and the start of the record that a reader places at another.
fn lines_to(text: &str, counted: usize, byte: usize) -> u64 {
    let upto = start_of(text, byte).max(counted);
    text.get(counted..upto)
        .unwrap_or_default()
        .matches('\n')
        .count() as u64
}

fn json_records(text: &str) -> Result<Vec<Raw>, Refusal> {
    let not_json = |line, what: &str| Refusal::NotJson {
        line,
        what: what.to_owned(),
    };
    let whole: Value = serde_json::from_str(text)
        .map_err(|error| not_json(error.line() as u64, &error.to_string()))?;
    let list = whole
        .get("parts")
        .and_then(Value::as_array)
        .ok_or_else(|| not_json(1, "it holds no list under the name \"parts\""))?;
    let mut records = Vec::new();
    for (place, record) in list.iter().enumerate() {
        let line = place as u64 + 1;
        let Value::Object(map) = record else {
            return Err(not_json(line, "a part is not an object"));
        };
        let mut values = BTreeMap::new();
        for (name, value) in map {
            if !FIELDS.contains(&name.as_str()) {
                return Err(Refusal::UnknownField(name.clone()));
            }
            let text = match value {
                Value::Null => String::new(),
                Value::Bool(flag) => if *flag { "yes" } else { "no" }.to_owned(),
                Value::Number(number) => number.to_string(),
                Value::String(text) => text.clone(),
                Value::Array(_) | Value::Object(_) => {
                    return Err(not_json(
                        line,
                        &format!("{name} is neither text nor figure"),
                    ));
                }
            };
            values.insert(name.clone(), text);
        }
        records.push((line, values));
    }
    Ok(records)
}

/// Reads the fields of one record, and keeps what is wrong with each.
struct Fields<'a> {
    values: &'a BTreeMap<String, String>,
    problems: Vec<FieldProblem>,
}

impl Fields<'_> {
    fn get(&self, field: &str) -> &str {
        self.values.get(field).map_or("", |value| value.trim())
    }

    fn wrong(&mut self, field: &str, message: impl Into<String>) {
        self.problems.push(FieldProblem {
            field: field.to_owned(),
            message: message.into(),
        });
    }

    fn figure(&mut self, field: &str) -> Option<f64> {
        let text = self.get(field).to_owned();
        if text.is_empty() {
            return None;
        }
        match text.parse::<f64>() {
            Ok(figure) if figure.is_finite() => Some(figure),
            _ => {
                self.wrong(
                    field,
                    format!("{} is not a number; write it like 0.006", quoted(&text)),
                );
                None
            }
        }
    }

    /// A size; a hook's may be written as the trade does, 1/0.
    fn size(&mut self) -> Option<f64> {
        let is_hook = self.get("part") == "hook";
        let aught = |text: &str| text.strip_suffix("/0")?.parse::<u8>().ok();
        match aught(self.get("size")).filter(|aught| is_hook && *aught > 0) {
            Some(aught) => Some(-f64::from(aught)),
            None => self.figure("size"),
        }
    }

    fn flag(&mut self, field: &str) -> bool {
        let text = self.get(field).to_lowercase();
        match text.as_str() {
            "yes" | "true" | "1" => true,
            "" | "no" | "false" | "0" => false,
            _ => {
                self.wrong(field, format!("{} is neither yes nor no", quoted(&text)));
                false
            }
        }
    }

    fn keyed<T>(
        &mut self,
        field: &str,
        from: impl Fn(&str) -> Option<T>,
        known: &[&str],
    ) -> Option<T> {
        let text = self.get(field).to_owned();
        if text.is_empty() {
            return None;
        }
        let found = from(&text);
        if found.is_none() {
            self.wrong(
                field,
                format!("{} is not one of {}", quoted(&text), known.join(", ")),
            );
        }
        found
    }

    fn finish(&mut self, colour: &str, hammered: &str, over: &str) -> Option<Finish> {
        let known: Vec<&str> = Colour::ALL.iter().map(|colour| colour.key()).collect();
        let colour = self.keyed(colour, |key| Colour::from_key(&key.to_uppercase()), &known);
        let hammered = self.flag(hammered);
        let text = self.get(over).to_owned();
        let over = match (text.as_str(), Over::from_key(&text)) {
            ("", _) => None,
            (_, Some(read)) => Some(read),
            (_, None) => {
                let wrong = format!(
                    "{} is neither a lacquer like RD nor a share like BK 30",
                    quoted(&text)
                );
                self.wrong(over, wrong);
                None
            }
        };
        colour.map(|colour| Finish {
            colour,
            hammered,
            over,
        })
    }
}

fn record(
    values: &BTreeMap<String, String>,
) -> (Option<PartId>, Result<BoxPart, Vec<FieldProblem>>) {
    let mut fields = Fields {
        values,
        problems: Vec::new(),
    };
    let id = match fields.get("id").to_owned() {
        text if text.is_empty() => None,
        text => match text.parse::<i64>() {
            Ok(id) if id > 0 => Some(PartId(id)),
            _ => {
                fields.wrong(
                    "id",
                    format!(
                        "{} is no whole number above 0; leave it empty for a new part",
                        quoted(&text)
                    ),
                );
                None
            }
        },
    };
    // A cell that a spreadsheet would run is refused by its field, wherever it stands.
    for field in [
        "part",
        "style",
        "material",
        "colour",
        "back_colour",
        "place",
        "over",
        "back_over",
        "size_name",
    ] {
        let text = fields.get(field).to_owned();
        if let Err(error) = plain_text(field, &text, 60) {
            fields.wrong(field, error.to_string());
        }
    }
    let boxed = boxed(&mut fields);
    match boxed {
        Some(boxed) if fields.problems.is_empty() => (id, Ok(boxed)),
        _ => (id, Err(fields.problems)),
    }
}

fn boxed(fields: &mut Fields<'_>) -> Option<BoxPart> {
    let (group, style) = (
        fields.get("part").to_owned(),
        fields.get("style").to_owned(),
    );
    let what = What::from_keys(&group, &style);
    if what.is_none() && fields.problems.is_empty() {
        let groups: Vec<&str> = What::all().map(|what| what.keys().0).collect();
        if groups.contains(&group.as_str()) {
            let styles: Vec<&str> = What::all()
                .map(What::keys)
                .filter(|keys| keys.0 == group)
                .map(|keys| keys.1)
                .collect();
            fields.wrong(
                "style",
                format!("{} is not one of {}", quoted(&style), styles.join(", ")),
            );
        } else {
            let mut known = groups;
            known.dedup();
            fields.wrong(
                "part",
                format!("{} is not one of {}", quoted(&group), known.join(", ")),
            );
        }
    }
    let size = fields.size();
    if size.is_none() && fields.get("size").is_empty() {
        fields.wrong(
            "size",
            "size is empty; give the trade's number, mm, g, lb or in",
        );
    }
    let finish = fields.finish("colour", "hammered", "over");
    let back = fields.finish("back_colour", "back_hammered", "back_over");
    let known: Vec<&str> = Material::ALL
        .iter()
        .map(|material| material.key())
        .collect();
    let material = fields.keyed("material", Material::from_key, &known);
    let measured = Measured {
        length: fields.figure("length_m").map(Metres),
        width: fields.figure("width_m").map(Metres),
        thickness: fields.figure("thickness_m").map(Metres),
        diameter: fields.figure("diameter_m").map(Metres),
        bore: fields.figure("bore_m").map(Metres),
        mass: fields.figure("mass_kg").map(Kilograms),
    };
    let (left, low) = (fields.figure("left_count"), fields.figure("low_count"));
    let unit_cost = fields.figure("unit_cost");
    let place = fields.get("place").to_owned();
    let size_name = fields.get("size_name").to_owned();
    let finish = finish.unwrap_or(motilis_core::rig::BARE);
    let part = Part::new(what?, size?, finish)
        .map(|part| part.of(material.unwrap_or(part.material)).backed(back))
        .and_then(|part| part.measured(measured));
    let checked = part.and_then(|part| {
        let boxed = BoxPart {
            part,
            left: left.unwrap_or(0.0),
            low: low.unwrap_or(0.0),
            unit_cost,
            place,
            size_name,
        };
        boxed.check().map(|()| boxed)
    });
    match checked {
        Ok(boxed) => Some(boxed),
        Err(error) => {
            let field = error.quantity().to_owned();
            if !fields.problems.iter().any(|problem| problem.field == field) {
                fields.wrong(&field, error.to_string());
            }
            None
        }
    }
}
