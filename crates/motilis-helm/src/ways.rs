use crate::error::Error;
use motilis_core::advice::{Question, Schools, Term, Weights};
use motilis_core::fish::Fish;
use motilis_store::{Connection, settings};

/// The schools followed, and the weights for a fish with the angler's own.
///
/// A school or weight that this version does not know counts for nothing.
///
/// # Errors
/// [`Error::Store`].
pub fn followed(connection: &Connection, fish: Fish) -> Result<(Schools, Weights), Error> {
    let mut schools = Schools::default();
    for (name, value) in settings::beginning(connection, "school.")? {
        let question = Question::from_key(name.trim_start_matches("school."));
        if let Some(question) = question {
            schools = schools.following(question, &value).unwrap_or(schools);
        }
    }
    let mut weights = Weights::usual(fish, &schools);
    let prefix = format!("weight.{}.", fish.key());
    for (name, value) in settings::beginning(connection, &prefix)? {
        let term = Term::from_key(name.trim_start_matches(&prefix));
        if let (Some(term), Ok(weight)) = (term, value.parse()) {
            weights = weights.clone().with(term, weight).unwrap_or(weights);
        }
    }
    Ok((schools, weights))
}
