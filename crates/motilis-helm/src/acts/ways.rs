use super::{Doing, Made};
use motilis_core::advice::{Question, Term};
use motilis_core::fish::Fish;
use motilis_store::settings;

/// A change of how the angler wants to be advised.
#[derive(Debug, Clone, PartialEq)]
pub enum WaysAct {
    /// The schools followed, by their keys.
    Schools(Vec<(Question, String)>),
    /// What terms count for a fish; `None` for the default.
    Weights(Fish, Vec<(Term, Option<f64>)>),
    /// The bench measures, or goes by eye: the other way than now.
    Measuring,
}

impl WaysAct {
    pub(super) fn done(self, doing: &Doing<'_, '_>) -> Made {
        let connection = doing.book.connection();
        match self {
            Self::Schools(followed) => {
                for (question, key) in followed {
                    settings::set(connection, &format!("school.{}", question.key()), &key)?;
                }
            }
            Self::Weights(fish, weights) => {
                for (term, weight) in weights {
                    let name = format!("weight.{}.{}", fish.key(), term.key());
                    match weight {
                        Some(weight) => settings::set(connection, &name, &weight.to_string())?,
                        None => settings::forget(connection, &name)?,
                    }
                }
            }
            Self::Measuring => {
                let by_eye = settings::get(connection, "measuring")?.as_deref() == Some("by_eye");
                let other = if by_eye { "computed" } else { "by_eye" };
                settings::set(connection, "measuring", other)?;
            }
        }
        Ok(None)
    }
}
