//! The box goes out and comes back to the last digit, and a broken file is refused line by line.

mod gpx;
mod log;
mod nmea;

use motilis_core::book::{BoxPart, PartId};
use motilis_core::rig::{Colour, Finish, Material, Measured, Over, Part, What};
use motilis_core::units::{Kilograms, Metres};
use motilis_formats::{FIELDS, Format, MOST_BYTES, Refusal, read, write};
use proptest::prelude::*;
use rstest::rstest;

fn csv(text: &str) -> motilis_formats::Reading {
    read(text.as_bytes(), Format::Csv).unwrap()
}

/// What is wrong with the first record, field by field.
fn problems(text: &str) -> Vec<(String, String)> {
    let record = csv(text).records.remove(0);
    let problems = record.part.unwrap_err();
    problems
        .into_iter()
        .map(|problem| (problem.field, problem.message))
        .collect()
}

#[test]
fn a_line_of_the_trade_is_read() {
    let reading = csv(
        "part,style,size,colour,hammered,left_count,unit_cost,place\n\
        blade,colorado,4,BR,yes,12,0.45,\"Tray 1, blades\"\n",
    );
    let (id, boxed) = reading.sound().unwrap()[0];
    assert_eq!(id, None);
    assert_eq!(boxed.part.finish, Finish::hammered(Colour::Brass));
    assert_eq!((boxed.left, boxed.unit_cost), (12.0, Some(0.45)));
    assert_eq!(boxed.place, "Tray 1, blades");
}

#[rstest]
#[case::style("blade,columbo,4,,", "style", "is not one of colorado, indiana")]
#[case::group("spoon,round,4,,", "part", "is not one of blade")]
#[case::no_number("blade,colorado,four,,", "size", "“four” is not a number")]
#[case::no_size("blade,colorado,,,", "size", "size is empty")]
#[case::no_such_size("blade,colorado,9,,", "size", "Colorado has no size 9")]
#[case::negative("bead,round,-6,,", "size", "is not above 0")]
#[case::negative_count("bead,round,6,-3,", "left_count", "is not between 0 and 100 000")]
#[case::broken_count("bead,round,6,2.5,", "left_count", "count whole ones")]
#[case::nan("bead,round,NaN,3,", "size", "is not a number")]
#[case::formula("bead,round,6,3,\"=HYPERLINK(\"\"x\"\")\"", "place", "formula")]
#[case::formula_at("bead,round,6,3,@SUM(A1)", "place", "formula")]
fn a_wrong_field_is_named_with_what_would_be_right(
    #[case] row: &str,
    #[case] field: &str,
    #[case] says: &str,
) {
    let found = problems(&format!("part,style,size,left_count,place\n{row}\n"));
    assert!(
        found
            .iter()
            .any(|(name, message)| name == field && message.contains(says)),
        "{found:?}"
    );
}

#[test]
fn each_bad_line_is_named_and_the_good_ones_are_still_read() {
    let reading =
        csv("id,part,style,size\n1,bead,round,6\n2,bead,round,x\n1,bead,round,5\n0,bead,round,5\n");
    let bad: Vec<u64> = reading
        .records
        .iter()
        .filter(|record| record.part.is_err())
        .map(|record| record.line)
        .collect();
    assert_eq!(bad, [3, 4, 5]);
    assert!(reading.sound().is_none());
    let twice = reading.records[2].part.as_ref().unwrap_err();
    assert_eq!(twice[0].message, "number 1 stands on line 2 already");
}

#[rstest]
#[case::header("name;count\n1;2\n", "there is no field \"name;count\"")]
#[case::missing("part,style\nbead,round\n", "the field \"size\" is missing")]
#[case::twice("part,style,size,size\nbead,round,6,6\n", "stands there twice")]
#[case::quotes(
    "part,style,size\nbead,round,6\nbead,\"round,6\n",
    "line 3: a quote is opened and never closed"
)]
#[case::short_row(
    "part,style,size\nbead,round\n",
    "line 2: 2 values stand under 3 fields"
)]
#[case::empty("  \n", "the file is empty")]
fn a_file_that_is_none_is_refused_with_its_line(#[case] text: &str, #[case] says: &str) {
    let refusal = read(text.as_bytes(), Format::Csv).unwrap_err().to_string();
    assert!(refusal.contains(says), "{refusal}");
}

#[test]
fn what_is_no_text_or_too_large_is_refused() {
    assert_eq!(
        read(b"part,style\xff\xfe", Format::Csv),
        Err(Refusal::NotText(11))
    );
    assert_eq!(read(b"part\0", Format::Csv), Err(Refusal::NotText(5)));
    let large = vec![b'a'; MOST_BYTES + 1];
    assert_eq!(
        read(&large, Format::Json),
        Err(Refusal::TooLarge(MOST_BYTES + 1))
    );
}

#[rstest]
#[case("{\"parts\": [{\"part\": \"bead\", }]}", "not JSON")]
#[case("[1, 2]", "no list under the name")]
#[case("{\"parts\": [7]}", "a part is not an object")]
#[case("{\"parts\": [{\"maker\": \"x\"}]}", "there is no field \"maker\"")]
#[case("{\"parts\": [{\"part\": [\"bead\"]}]}", "neither text nor figure")]
fn json_that_is_none_is_refused(#[case] text: &str, #[case] says: &str) {
    let refusal = read(text.as_bytes(), Format::Json).unwrap_err().to_string();
    assert!(refusal.contains(says), "{refusal}");
}

fn any_part() -> impl Strategy<Value = BoxPart> {
    let whats: Vec<What> = What::all().collect();
    let figure = || proptest::option::of(5e-3..0.02_f64);
    (
        proptest::sample::select(whats),
        any::<prop::sample::Index>(),
        (
            0..Colour::ALL.len(),
            any::<bool>(),
            proptest::option::of((0..Colour::ALL.len(), any::<bool>())),
        ),
        0..Material::ALL.len(),
        (figure(), figure(), figure(), 0.0..0.9_f64),
        (0..500_u32, 0..20_u32, proptest::option::of(0.0..50.0_f64)),
        "[A-Za-z0-9][A-Za-z0-9 ,\"']{0,20}",
    )
        .prop_map(
            |(
                what,
                size,
                (front, hammered, back),
                material,
                measures,
                (left, low, cost),
                place,
            )| {
                let sizes = what.sizes();
                let finish = |colour: usize, hammered: bool| Finish {
                    over: hammered.then_some(Over {
                        colour: Colour::Black,
                        share: Some(30),
                    }),
                    colour: Colour::ALL[colour],
                    hammered,
                };
                let (length, width, diameter, hole) = measures;
                let measured = Measured {
                    length: length.map(Metres),
                    width: width.map(Metres),
                    thickness: None,
                    diameter: diameter.map(Metres),
                    bore: diameter.map(|d| Metres(d * hole.max(0.01))),
                    mass: length.map(|l| Kilograms(l * 0.1)),
                };
                let part = Part::new(
                    what,
                    sizes[size.index(sizes.len())],
                    finish(front, hammered),
                )
                .unwrap()
                .of(Material::ALL[material])
                .backed(back.map(|(colour, hammered)| finish(colour, hammered)))
                .measured(measured)
                .unwrap();
                BoxPart {
                    part,
                    left: f64::from(left),
                    low: f64::from(low),
                    unit_cost: cost,
                    size_name: if left % 2 == 0 { "long" } else { "" }.to_owned(),
                    place: place.trim().to_owned(),
                }
            },
        )
        // A blade may come out narrower than any blade is.
        .prop_filter("no such part can be in the box", |boxed| {
            boxed.check().is_ok()
        })
}

proptest! {
    #[test]
    fn what_goes_out_comes_back_the_same(parts in proptest::collection::vec(any_part(), 0..12)) {
        let parts: Vec<(PartId, BoxPart)> =
            parts.into_iter().enumerate().map(|(id, part)| (PartId(id as i64 + 1), part)).collect();
        for format in [Format::Csv, Format::Json] {
            let text = write(&parts, format);
            let reading = read(text.as_bytes(), format).unwrap();
            let back: Vec<(PartId, BoxPart)> = reading
                .records
                .into_iter()
                .map(|record| (record.id.unwrap(), record.part.unwrap()))
                .collect();
            prop_assert_eq!(&back, &parts);
        }
    }

    #[test]
    fn no_text_makes_it_panic(text in ".{0,200}") {
        for format in [Format::Csv, Format::Json] {
            let _ = read(text.as_bytes(), format);
            let _ = read(format!("{}\n{text}", FIELDS.join(",")).as_bytes(), format);
        }
    }
}
