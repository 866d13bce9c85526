//! The questions a script can ask Motilis, one JSON object in, one out.
//!
//! Each computation is a module with a `Request`, an `Answer` and a `solve`; [`What`] names them
//! for the command line (`motilis solve towline`) and for the web (`POST /api/v1/solve/towline`),
//! which therefore cannot differ. Field names carry their SI unit. Unknown fields are refused by
//! name. [`openapi`] is the document that describes it all.
//!
//! ```
//! use motilis_solve::What;
//! let request = br#"{"family":"colorado","length_m":0.0255,"width_m":0.020,
//!     "thickness_m":0.00047,"density_kg_m3":8500,"speed_mps":0.536,
//!     "water":{"temperature_c":15},"count":1,"bend":null,
//!     "holding_moment_nm":4.2e-5,"friction":0.35,"clevis_radius_m":0.0007}"#;
//! let answer = What::Blade.answer(request).unwrap();
//! assert!(answer.contains(r#""state":"turning""#));
//! ```

pub mod advice;
pub mod blade;
mod document;
pub mod fish;
pub mod light;
pub mod rate;
mod refusal;
pub mod rig;
pub mod river;
mod setup;
pub mod spread;
pub mod sun;
pub mod towline;
mod water;

pub use document::openapi;
pub use refusal::{Refusal, Refused};
pub use water::Water;

use serde::Serialize;
use serde::de::DeserializeOwned;

/// A computation that can be asked for by name.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum What {
    /// The steady shape of a towed line.
    Towline,
    /// What a blade does at a speed.
    Blade,
    /// A rig on the bench: geometry, checks, cut lengths, steps.
    Rig,
    /// Where sun and moon stand.
    Sun,
    /// How far a fish sees a finish.
    Light,
    /// Which rig, today.
    Match,
    /// All lines together.
    Spread,
    /// What fish and rod-hours say.
    Rate,
    /// A fish on the board.
    Fish,
    /// Where a cast goes in a river.
    River,
}

impl What {
    /// Every computation, with the name it is asked for by.
    pub const ALL: [(&'static str, Self); 10] = [
        ("towline", Self::Towline),
        ("blade", Self::Blade),
        ("rig", Self::Rig),
        ("sun", Self::Sun),
        ("light", Self::Light),
        ("match", Self::Match),
        ("spread", Self::Spread),
        ("rate", Self::Rate),
        ("fish", Self::Fish),
        ("river", Self::River),
    ];

    /// The computation of a name, if there is one.
    pub fn from_name(name: &str) -> Option<Self> {
        Self::ALL
            .iter()
            .find(|(known, _)| *known == name)
            .map(|(_, what)| *what)
    }

    /// Answers one request, JSON for JSON.
    ///
    /// # Errors
    /// [`Refusal`] with the field, what is wrong and what would be right.
    pub fn answer(self, request: &[u8]) -> Result<String, Refusal> {
        match self {
            Self::Towline => answer(request, towline::solve),
            Self::Blade => answer(request, blade::solve),
            Self::Rig => answer(request, rig::solve),
            Self::Sun => answer(request, sun::solve),
            Self::Light => answer(request, light::solve),
            Self::Match => answer(request, advice::solve),
            Self::Spread => answer(request, spread::solve),
            Self::Rate => answer(request, rate::solve),
            Self::Fish => answer(request, fish::solve),
            Self::River => answer(request, river::solve),
        }
    }
}

fn answer<Q: DeserializeOwned, A: Serialize>(
    request: &[u8],
    solve: impl Fn(Q) -> Result<A, Refusal>,
) -> Result<String, Refusal> {
    // The reader would take a list for an object, field by field in order.
    if request.trim_ascii_start().first() != Some(&b'{') {
        return Err(Refusal::new("", "the request is not one JSON object"));
    }
    let json = &mut serde_json::Deserializer::from_slice(request);
    let question = serde_path_to_error::deserialize(&mut *json).map_err(Refusal::from_json)?;
    json.end().map_err(|error| Refusal::not_json(&error))?;
    let answer = solve(question)?;
    Ok(serde_json::to_string(&answer).expect("answers hold finite numbers, lists and texts only"))
}
