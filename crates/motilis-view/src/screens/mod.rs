//! One view model for each screen, and the frame they share.

mod aboard;
mod bench;
mod boat;
mod boxes;
mod column;
mod data;
mod deleted;
mod evidence;
mod experiment;
mod files;
mod frame;
mod judging;
mod line_table;
mod log;
mod message;
mod river;
mod setups;
mod spread;
mod start;
mod tank;
mod today;
mod track;
mod waters;

pub use aboard::{AboardScreen, Asked, GuestCard, SessionRow, SignIn};
pub use bench::{
    Bay, Bench, BenchNew, BenchNotice, CheckRow, Compare, CompareRow, Dimension, InHand, KindCard,
    Measure, MendRow, Peg, PieceRow, StepRow,
};
pub use boat::{
    Boat, BoatPlanPart, BoatRow, Figure as LiveFigure, Instruments, Line, LineAct, Now, Phone,
    Practice, RodNow, Rule, SetOutAssistant,
};
pub use boxes::{
    BoxHead, BoxScreen, BreakOff, ImportRow, ImportScreen, MadeGroup, MadeRow, PartForm, PartRow,
    ReturnRow, SheetScreen, ShoppingRow, ShoppingScreen,
};
pub use column::{ClaimRow, Column, Slide};
pub use data::{AsideRow, CopyRow, DataScreen, Found};
pub use deleted::{Deleted, DeletedRow};
pub use evidence::{Better, EvidenceScreen, LengthRow, RateRow};
pub use experiment::{ExperimentForm, ExperimentRow, ExperimentScreen, ExperimentStrip, Side};
pub use files::{FilesScreen, LogImportRow};
pub use frame::{Choice, Field, Frame, Here, LISTED, Screen, Sealed, Theme, Window, listed};
pub use judging::{Judging, SchoolRow, WeightRow};
pub use line_table::LineTable;
pub use log::{Entry, EntryForm, Log, Notice, PassForm, PassRow, Playbook, RodRow, SwitchRow};
pub use message::Message;
pub use river::{
    CastLook, Counting, GearForm, GridCell, OrderRow, RiverNone, RiverRigs, RiverScreen, RunForm,
    RunScreen, TriedRow,
};
pub use setups::{SetupForm, SetupGroup, SetupRow, Setups};
pub use spread::{
    CardRow, ComparedRow, CourseForm, Editor, HolderBox, LineRow, LureForm, LureScreen,
    MotionScreen, SetOutCard, SpreadCompare, SpreadHead, SpreadNew, SpreadScreen, Trouble,
    TurnForm,
};
pub use start::{Start, StartForm};
pub use tank::{BladePanel, DunkForm, Fact, Kind, LadderRung, Slider, Tank, TankForm, TouchForm};
pub use today::{
    CallCard, Calls, CannotRow, Changes, Conditions, DaySide, FinishLook, LoreRow, Marked,
    PickCard, PickFigure, ReadingForm, ReadingRow, SecchiHelper, Swap, TermRow, Today, TodayRow,
};
pub use track::{SpotForm, SpotRow, TrackScreen};
pub use waters::{RuleForm, RuleRow, Water, WaterForm, WaterRow, Waters};
