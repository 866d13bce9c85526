//! What a rod is rigged with, as questions give it.

use crate::Refusal;
use crate::rig::keyed;
use motilis_core::line::{Core, LineSetup, Start};
use motilis_core::tackle::{
    DiverSize, LineMaterial, LineStock, ReleaseHole, SideSetting, SinkerStyle, Weight,
    WeightMaterial,
};
use motilis_core::units::{Kilograms, Metres};
use serde::Deserialize;
use utoipa::ToSchema;

/// A line off the spool.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SpoolRequest {
    /// `nylon`, `fluorocarbon`, `braid`, `lead_core` …
    pub material: String,
    /// Strength on its label, lb.
    pub test_lb: u16,
}

/// What takes a line down.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct WeightRequest {
    /// `bottom_bouncer`, `bullet`, `egg`, `split_shot`, `clip_on`, `diving_weight`, `trip_diver` or `float_diver`.
    pub kind: String,
    /// Mass; not of a diver.
    pub mass_kg: Option<f64>,
    /// `lead`, `tin`, `tungsten` or `brass`; lead when not given.
    pub material: Option<String>,
    /// Size of a diver: `small`, `medium` or `large`.
    pub size: Option<String>,
    /// How far a trip diver is turned out, `0` (straight) to `3`; straight when not given.
    pub side: Option<String>,
    /// Which hole a trip diver's release is set in, `near`, `middle`, `far` or `held`; middle when not given.
    pub hole: Option<String>,
}

/// A length of lead-core or copper between leader and main line.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct CoreRequest {
    /// What it is.
    pub stock: SpoolRequest,
    /// How much of it is spooled on; a colour of lead-core is 9.144 m.
    pub length_m: f64,
}

/// What a rod is rigged with, all but the rig.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct SetupRequest {
    /// `rod_tip`, `board` or `downrigger`.
    pub start: String,
    /// Height of a rod tip.
    pub tip_height_m: Option<f64>,
    /// Mass of a downrigger's ball.
    pub ball_kg: Option<f64>,
    /// Line between a downrigger's release and the leader.
    pub drop_back_m: Option<f64>,
    /// Height of that release above the ball, for stacked releases; 0 when not given.
    #[serde(default)]
    pub above_m: f64,
    /// The main line; behind a core its backing.
    pub main: SpoolRequest,
    /// A sinking section between leader and main line.
    pub core: Option<CoreRequest>,
    /// What takes it down; none when not given.
    pub weight: Option<WeightRequest>,
    /// Main line between leader and weight; 0 when not given.
    #[serde(default)]
    pub ahead_m: f64,
    /// The leader.
    pub leader: SpoolRequest,
    /// Its length.
    pub lead_m: f64,
    /// The most that can be let out.
    pub reel_m: f64,
}

/// A keyed word of a list.
pub(crate) fn key<T: Copy>(
    field: &str,
    word: &str,
    from_key: impl Fn(&str) -> Option<T>,
    all: &[T],
    key: impl Fn(T) -> &'static str,
) -> Result<T, Refusal> {
    keyed(field, word, from_key, all.iter().map(|one| key(*one)))
}

impl SpoolRequest {
    pub(crate) fn stock(&self, path: &str) -> Result<LineStock, Refusal> {
        let material = key(
            &format!("{path}.material"),
            &self.material,
            LineMaterial::from_key,
            LineMaterial::ALL,
            LineMaterial::key,
        )?;
        LineStock::of_test(material, self.test_lb)
            .map_err(|error| Refusal::new(format!("{path}.test_lb"), error.to_string()))
    }
}

impl WeightRequest {
    pub(crate) fn weight(&self, path: &str) -> Result<Weight, Refusal> {
        if self.kind.ends_with("diver") {
            let size = key(
                &format!("{path}.size"),
                self.size.as_deref().unwrap_or("medium"),
                DiverSize::from_key,
                DiverSize::ALL,
                DiverSize::key,
            )?;
            let side = key(
                &format!("{path}.side"),
                self.side.as_deref().unwrap_or("0"),
                SideSetting::from_key,
                SideSetting::ALL,
                SideSetting::key,
            )?;
            let hole = key(
                &format!("{path}.hole"),
                self.hole.as_deref().unwrap_or("middle"),
                ReleaseHole::from_key,
                ReleaseHole::ALL,
                ReleaseHole::key,
            )?;
            match self.kind.as_str() {
                "trip_diver" => return Ok(Weight::TripDiver(size, side, hole)),
                "float_diver" => return Ok(Weight::FloatDiver(size)),
                _ => {}
            }
        }
        let style = keyed(
            &format!("{path}.kind"),
            &self.kind,
            SinkerStyle::from_key,
            Weight::keys(),
        )?;
        let material = key(
            &format!("{path}.material"),
            self.material.as_deref().unwrap_or("lead"),
            WeightMaterial::from_key,
            WeightMaterial::ALL,
            WeightMaterial::key,
        )?;
        let mass = self.mass_kg.map(Kilograms).ok_or_else(|| {
            Refusal::new(
                format!("{path}.mass_kg"),
                format!("a {} needs its mass_kg", self.kind),
            )
        })?;
        Ok(Weight::Sinker(style, mass, material))
    }
}

impl SetupRequest {
    pub(crate) fn setup(&self, path: &str) -> Result<LineSetup, Refusal> {
        let needs = |field: &str, figure: Option<f64>| {
            figure.ok_or_else(|| {
                Refusal::new(
                    format!("{path}.{field}"),
                    format!("a line from a {} needs {field}", self.start),
                )
            })
        };
        let start = match self.start.as_str() {
            "rod_tip" => Start::RodTip {
                height: Metres(needs("tip_height_m", self.tip_height_m)?),
            },
            "board" => Start::Board,
            "downrigger" => Start::Downrigger {
                ball: Kilograms(needs("ball_kg", self.ball_kg)?),
                drop_back: Metres(needs("drop_back_m", self.drop_back_m)?),
                above: Metres(self.above_m),
            },
            other => {
                return Err(Refusal::new(
                    format!("{path}.start"),
                    format!("start {other:?} is not one of rod_tip, board, downrigger"),
                ));
            }
        };
        let setup = LineSetup {
            name: String::new(),
            start,
            main: self.main.stock(&format!("{path}.main"))?,
            core: match &self.core {
                None => None,
                Some(core) => Some(Core {
                    stock: core.stock.stock(&format!("{path}.core.stock"))?,
                    length: Metres(core.length_m),
                }),
            },
            ahead: Metres(self.ahead_m),
            weight: match &self.weight {
                None => None,
                Some(weight) => Some(weight.weight(&format!("{path}.weight"))?),
            },
            leader: self.leader.stock(&format!("{path}.leader"))?,
            lead: Metres(self.lead_m),
            strum: motilis_core::towline::STRUM,
            learned: motilis_core::line::Learned::default(),
            reel: Metres(self.reel_m),
        };
        setup.check().map_err(|error| {
            Refusal::new(format!("{path}.{}", error.quantity()), error.to_string())
        })?;
        Ok(setup)
    }
}
