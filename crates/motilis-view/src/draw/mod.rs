//! Drawings: each a plain struct with its positions ready, and a template that places them.
//!
//! Positions are pixels of the drawing's own `viewBox`. Colour and stroke come from CSS classes.

mod bench;
mod blade;
mod boat_plan;
mod column;
mod curve;
mod day_bars;
mod day_curve;
mod kit;
mod lengths;
pub mod part;
mod plan;
mod rate_bar;
mod river;
mod sheet;
mod side_view;
mod sightings;
mod speed_rule;
mod spread;
mod timeline;
mod turning;

pub use bench::{BenchDrawing, BenchSource, Detail};
pub use blade::{Outline, outline};
pub use boat_plan::{BoatPlan, BoatPlanSource};
pub use column::{ColumnSource, WaterColumn};
pub use curve::{Curve, CurveSource, Stretch};
pub use day_bars::{Bar, DayBars, DaySource, Row, Strip};
pub use day_curve::{DayCurve, DayCurveSource};
pub use kit::{Path, Px, Scale, Tick, Washes, ticks};
pub use lengths::{Lengths, LengthsSource};
pub use plan::{Plan, PlanMark, PlanSource};
pub use rate_bar::RateBar;
pub use river::{Cast as CastDrawn, RunPlan, RunPlanSource, RunSection, RunSectionSource};
pub use sheet::{Paper, Sheet, SheetSource};
pub use side_view::{SideSource, SideView};
pub use sightings::Sightings;
pub use speed_rule::{SpeedBar, SpeedRule};
pub use spread::{LineLabel, Mark, SpreadDrawing, SpreadSource};
pub use timeline::{Happening, Timeline, TimelineSource};
pub use turning::{SLOWED, ThumpWave, TurningBlade};
