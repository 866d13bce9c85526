use serde::Serialize;
use utoipa::ToSchema;

/// Why a request was not answered: the field, and one sentence.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct Refusal {
    /// The field as the request spells it, `segments[0].length_m`; empty for the request as a whole.
    #[schema(example = "speed_mps")]
    pub field: String,
    /// What is wrong and what would be right.
    #[schema(example = "speed_mps -1 m/s is not between 0 and 15 m/s")]
    pub message: String,
}

/// A [`Refusal`] as it is sent: `{"error":{"field":…,"message":…}}`.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct Refused {
    /// The refusal.
    pub error: Refusal,
}

impl Refusal {
    /// A refusal of a field.
    pub fn new(field: impl Into<String>, message: impl Into<String>) -> Self {
        Self {
            field: field.into(),
            message: message.into(),
        }
    }

    /// The same refusal of a field inside of something.
    pub(crate) fn under(self, path: &str) -> Self {
        let field = match self.field.as_str() {
            "" => path.to_owned(),
            field => format!("{path}.{field}"),
        };
        Self { field, ..self }
    }

    /// What is sent, on one line.
    pub fn to_json(&self) -> String {
        serde_json::to_string(&Refused {
            error: self.clone(),
        })
        .expect("two texts can be written")
    }

    pub(crate) fn not_json(error: &serde_json::Error) -> Self {
        Self::new("", format!("the request is not one JSON object: {error}"))
    }

    /// Names the field that the JSON reader stumbled over.
    pub(crate) fn from_json(error: serde_path_to_error::Error<serde_json::Error>) -> Self {
        let path = error.path().to_string();
        let error = error.into_inner();
        if !error.is_data() {
            return Self::not_json(&error);
        }
        let text = error.to_string();
        // "… at line 1 column 9" tells nothing that the field does not.
        let text = text.split(" at line ").next().unwrap_or(&text);
        let text = text.replace("expected f64", "expected a number");
        let text = text.replace("expected u8", "expected a whole number");
        let named = text.split('`').nth(1).unwrap_or_default();
        let is_named = text.starts_with("missing field") || text.starts_with("unknown field");
        let field = match path.as_str() {
            "." | "?" if is_named => named.to_owned(),
            "." | "?" => String::new(),
            path if is_named && !path.ends_with(named) => format!("{path}.{named}"),
            path => path.to_owned(),
        };
        Self::new(field, text)
    }
}

impl From<motilis_core::Error> for Refusal {
    fn from(error: motilis_core::Error) -> Self {
        Self::new(error.quantity(), error.to_string())
    }
}
