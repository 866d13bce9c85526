//! The forms of schools and weights.

use super::{Texts, Typed, merge, overtaken};
use crate::units::{Quantity, System};
use motilis_core::advice::{Question, Schools, Term, WEIGHT, Weights};
use motilis_core::fields;
use motilis_core::fish::Fish;
use motilis_formats::quoted;
use motilis_helm::WaysAct;

/// The schools as their form would be typed.
pub fn schools_of(schools: &Schools) -> Texts {
    let each = |&question: &Question| {
        (
            question.key().to_owned(),
            schools.answer(question).to_owned(),
        )
    };
    Question::ALL.iter().map(each).collect()
}

/// The schools of a form, with what others changed meanwhile.
///
/// # Errors
/// The sentence of what cannot be.
pub fn read_schools(
    sent: &Texts,
    shown_before: Option<&str>,
    now: &Schools,
) -> Result<WaysAct, String> {
    let merged = merge(sent, shown_before, &schools_of(now));
    if let Some((name, theirs)) = merged.conflicts.first() {
        let question = Question::from_key(name).map_or("A school", Question::name);
        return Err(overtaken(&crate::words::capital(question), theirs).0);
    }
    let mut followed = Vec::new();
    for &question in Question::ALL {
        let Some(key) = merged.texts.get(question.key()) else {
            continue;
        };
        if Schools::default().following(question, key).is_none() {
            return Err(format!(
                "No school answers {} with {}; choose one of the list.",
                question.name(),
                quoted(key)
            ));
        }
        followed.push((question, key.clone()));
    }
    Ok(WaysAct::Schools(followed))
}

/// The angler's own weights as their form would be typed.
pub fn weights_of(weights: &Weights, usual: &Weights) -> Texts {
    let each = |&term: &Term| {
        let own = (weights.of(term) - usual.of(term)).abs() > 1e-9;
        let text = if own {
            weights.of(term).to_string()
        } else {
            String::new()
        };
        (term.key().to_owned(), text)
    };
    Term::ALL.iter().map(each).collect()
}

/// The field of a term's weight.
pub fn weight(term: Term, typed: &str) -> Typed {
    let asked = fields::Field {
        form: term.key(),
        key: term.key(),
        range: WEIGHT,
    };
    Typed::new(asked, term.name(), (Quantity::Count, System::Metric), typed)
}

/// The weights of a form, with what others changed meanwhile.
///
/// # Errors
/// The form as it was typed, each field with its sentence.
pub fn read_weights(
    sent: &Texts,
    shown_before: Option<&str>,
    fish: Fish,
    now: &Texts,
) -> Result<WaysAct, Vec<Typed>> {
    let merged = merge(sent, shown_before, now);
    let mut fields = Vec::new();
    let mut weights = Vec::new();
    for &term in Term::ALL {
        let text = merged.texts.get(term.key()).cloned().unwrap_or_default();
        let mut field = weight(term, &text);
        weights.push((term, field.optional()));
        let overtook = merged.conflicts.iter().find(|(name, _)| name == term.key());
        if let Some((_, theirs)) = overtook {
            field.field.problem = Some(overtaken(field.field.label, theirs));
        }
        fields.push(field);
    }
    if fields.iter().all(|field| field.field.problem.is_none()) {
        Ok(WaysAct::Weights(fish, weights))
    } else {
        Err(fields)
    }
}
