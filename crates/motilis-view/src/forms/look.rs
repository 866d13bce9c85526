//! What the address of a spread says beside it: the speed and turn looked at, the line in hand, what was done.

use serde::{Deserialize, Serialize};

/// The address as it was sent, and as it is sent on.
#[derive(Debug, Default, Clone, Deserialize, Serialize)]
#[serde(default)]
pub struct Look {
    /// Number of the line in hand.
    #[serde(
        deserialize_with = "super::lenient",
        skip_serializing_if = "Option::is_none"
    )]
    pub line: Option<usize>,
    /// Speed looked at, as typed.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub speed: Option<String>,
    /// `-1` or `1` when a stepper of the speed was pressed.
    #[serde(skip_serializing)]
    pub step: String,
    /// Side of the turn looked at.
    #[serde(skip_serializing_if = "String::is_empty")]
    pub side: String,
    /// Its radius, as typed.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub radius: Option<String>,
    /// Speed over ground up the run.
    #[serde(skip_serializing)]
    pub up: String,
    /// And down.
    #[serde(skip_serializing)]
    pub down: String,
    /// Speed of the current.
    #[serde(skip_serializing)]
    pub flow: String,
    /// Where it sets.
    #[serde(skip_serializing)]
    pub set: String,
    /// Where the run heads.
    #[serde(skip_serializing)]
    pub heading: String,
    /// A word for what was done.
    #[serde(skip_serializing_if = "String::is_empty")]
    pub said: String,
    /// A spread that was thrown away just now.
    #[serde(deserialize_with = "super::lenient", skip_serializing)]
    pub deleted: Option<i64>,
}

impl Look {
    /// The address of a spread with the scene kept: every text as it was typed.
    pub fn address(&self, spread: i64) -> String {
        let query = serde_urlencoded::to_string(self).unwrap_or_default();
        if query.is_empty() {
            format!("/spread/{spread}")
        } else {
            format!("/spread/{spread}?{query}")
        }
    }

    /// The same with a line in hand, or none.
    #[must_use]
    pub fn at_line(&self, line: Option<usize>) -> Self {
        Self {
            line,
            said: String::new(),
            ..self.clone()
        }
    }
}

#[cfg(test)]
mod tests {
    use super::Look;

    #[test]
    fn figures_keep_their_commas_and_words_on_the_way() {
        let look = Look {
            line: Some(2),
            speed: Some("1,3".into()),
            side: "port".into(),
            radius: Some("40,5 ft & more".into()),
            step: "1".into(),
            ..Look::default()
        };
        let address = look.address(1);
        assert_eq!(
            address,
            "/spread/1?line=2&speed=1%2C3&side=port&radius=40%2C5+ft+%26+more"
        );
        let back: Look = serde_urlencoded::from_str(address.split_once('?').unwrap().1).unwrap();
        assert_eq!((back.speed, back.radius), (look.speed, look.radius));
        assert_eq!(Look::default().address(3), "/spread/3");
    }
}
