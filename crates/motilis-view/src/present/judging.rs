//! How the call sheet judges: the schools followed and what each term counts.

use super::frame;
use crate::forms::judging::{schools_of, weight, weights_of};
use crate::forms::{Typed, base};
use crate::screens::{Choice, Judging, SchoolRow, Screen, WeightRow};
use crate::seen::Device;
use crate::words;
use motilis_core::advice::{Question, Term, Weights};
use motilis_helm::{Book, Error, followed};

/// The page: with weights as they were typed, and what was refused or done.
pub fn judging(
    book: &Book<'_>,
    device: Device,
    typed: Option<Vec<Typed>>,
    refusal: Option<String>,
    done: Option<i64>,
) -> Result<Judging, Error> {
    let here = book.here()?;
    let fish = here.outing.fish;
    let (schools, weights) = followed(book.connection(), fish)?;
    let usual = Weights::usual(fish, &schools);
    let kept = weights_of(&weights, &usual);
    let fields = typed.unwrap_or_else(|| {
        let field = |term: &Term| weight(*term, &kept[term.key()]);
        Term::ALL.iter().map(field).collect()
    });
    let row = |(&term, typed): (&Term, Typed)| WeightRow {
        field: typed.field,
        name: words::capital(term.name()),
        usual: format!("{:.1}", usual.of(term)),
        reason: term.reason_of_weight(fish, &schools),
    };
    Ok(Judging {
        frame: frame(Some(here), Screen::Today, device, "/judging"),
        fish: fish.name().to_owned(),
        schools: Question::ALL
            .iter()
            .map(|&question| SchoolRow {
                key: question.key(),
                question: words::capital(question.name()),
                choices: Choice::list(question.schools(), schools.answer(question)),
            })
            .collect(),
        weights: Term::ALL.iter().zip(fields).map(row).collect(),
        bases: (base(&schools_of(&schools)), base(&kept)),
        refusal,
        done,
    })
}
