use super::super::figures::Attitude;
use crate::rig::Spacing;
use crate::units::{Metres, MetresPerSecond};

/// What was checked, with the figures it was judged by.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Rule {
    /// The rig has a hook.
    Hook,
    /// The rig has one blade, or a pair of equals.
    Blade {
        /// How many it has.
        count: u8,
    },
    /// Each blade that needs a clevis hangs on one.
    OnClevis,
    /// Distance of the blade's tip ahead of the front hook's eye; negative past it.
    Tip {
        /// The distance.
        clearance: Metres,
        /// Whose school it is judged by.
        spacing: Spacing,
    },
    /// Beads of 6 mm between blade and bait head cap.
    CapBeads {
        /// How many there are.
        count: u8,
    },
    /// The circle the hook's points sweep against the blade's width.
    Points {
        /// Its diameter.
        span: Metres,
        /// The blade's width.
        width: Metres,
    },
    /// A hole against the wire or line through it.
    Bore {
        /// The hole.
        bore: Metres,
        /// What it must be.
        needs: Metres,
    },
    /// A bead's hole against what it slides against.
    Swallow {
        /// The hole.
        bore: Metres,
        /// What it meets.
        meets: Metres,
    },
    /// A clevis against its blade.
    Clevis {
        /// Number of the blade, or of the one its length comes nearest to.
        blade: f64,
        /// Numbers the clevis carries.
        carries: (f64, f64),
    },
    /// A smooth bead or body directly behind the clevis.
    Bearing,
    /// The last bead before a silicone skirt.
    SkirtBead {
        /// Its diameter; none there is 0.
        diameter: Metres,
    },
    /// How far a skirt reaches past the bend of the hook it dresses.
    Skirt {
        /// The distance; negative before it.
        past: Metres,
        /// Whether a trailing hook lies wholly behind it, where there is one.
        behind: Option<bool>,
    },
    /// Free wire above the clevis.
    ClevisRoom {
        /// How much.
        clearance: Metres,
        /// At least a clevis's width.
        least: Metres,
    },
    /// Nothing above the clevis but a second blade.
    AboveClevis {
        /// Parts there.
        parts: u8,
    },
    /// From hook to hook.
    HookSpacing {
        /// The distance.
        spacing: Metres,
        /// Where practice has it.
        range: (Metres, Metres),
    },
    /// A bumper bead between the hooks of a sliding rig.
    Bumper,
    /// Leader between weight and rig.
    Leader {
        /// Its length.
        lead: Metres,
        /// Where practice has it.
        range: (Metres, Metres),
    },
    /// Leader behind a diver against the rod that lifts the fish to the net.
    Netting {
        /// Its length.
        lead: Metres,
        /// The rod.
        rod: Metres,
    },
    /// Wraps of the snells.
    Snell {
        /// How many.
        wraps: u8,
    },
    /// Wraps and tail of the eyes in the wire.
    WireEye {
        /// Twist wraps.
        wraps: u8,
        /// Tail before it is trimmed.
        tail: Metres,
    },
    /// From attractor to lure.
    AttractorLead {
        /// The distance.
        lead: Metres,
        /// Where practice has it: quick kick or short.
        quick: (Metres, Metres),
        /// An easier kick.
        easy: (Metres, Metres),
    },
    /// Something that takes the twist of a bare wire spinner.
    Twist,
    /// The usable speeds.
    Window {
        /// From.
        from: MetresPerSecond,
        /// To, where something ends it.
        to: Option<MetresPerSecond>,
        /// Where practice runs it.
        practice: Option<(MetresPerSecond, MetresPerSecond)>,
    },
    /// Nose or tail first.
    Sinks(Attitude),
    /// What to cut, and what is left on the spool; `None` for a spool that is not in the box.
    Cut {
        /// The piece.
        whole: Metres,
        /// Where it finishes: the leader to the front hook, or the wire's straight length.
        finished: Metres,
        /// Metres on the spool.
        left: Option<Metres>,
    },
    /// Parts that the box does not hold enough of.
    Stock {
        /// Kinds of part that run out.
        short: u8,
    },
    /// Blades of the box that a quick-change clevis may get.
    QuickChange {
        /// How many of them clear the hook.
        clear: u8,
        /// How many fit the clevis.
        of: u8,
        /// How far the worst tip is from the hook's eye.
        worst: Metres,
    },
}

impl Rule {
    /// Its name in the JSON interface.
    pub fn key(&self) -> &'static str {
        match self {
            Self::Hook => "hook",
            Self::Blade { .. } => "blade",
            Self::OnClevis => "on_clevis",
            Self::Tip { .. } => "tip",
            Self::CapBeads { .. } => "cap_beads",
            Self::Points { .. } => "points",
            Self::Bore { .. } => "bore",
            Self::Swallow { .. } => "swallow",
            Self::Clevis { .. } => "clevis",
            Self::Bearing => "bearing",
            Self::SkirtBead { .. } => "skirt_bead",
            Self::Skirt { .. } => "skirt",
            Self::ClevisRoom { .. } => "clevis_room",
            Self::AboveClevis { .. } => "above_clevis",
            Self::HookSpacing { .. } => "hook_spacing",
            Self::Bumper => "bumper",
            Self::Leader { .. } => "leader",
            Self::Netting { .. } => "netting",
            Self::Snell { .. } => "snell",
            Self::WireEye { .. } => "wire_eye",
            Self::AttractorLead { .. } => "attractor_lead",
            Self::Twist => "twist",
            Self::Window { .. } => "window",
            Self::Sinks(_) => "sinks",
            Self::Cut { .. } => "cut",
            Self::Stock { .. } => "stock",
            Self::QuickChange { .. } => "quick_change",
        }
    }

    /// Its figures, SI, by name.
    pub fn figures(&self) -> Vec<(&'static str, f64)> {
        match *self {
            Self::Tip { clearance, .. } => vec![("clearance_m", clearance.0)],
            Self::Blade { count } | Self::CapBeads { count } => vec![("count", f64::from(count))],
            Self::Points { span, width } => vec![
                ("span_m", span.0),
                ("blade_width_m", width.0),
                ("ratio", span / width),
            ],
            Self::Bore { bore, needs } => vec![("bore_m", bore.0), ("needs_m", needs.0)],
            Self::Swallow { bore, meets } => vec![("bore_m", bore.0), ("meets_m", meets.0)],
            Self::Clevis { blade, carries } => vec![
                ("blade_number", blade),
                ("carries_from", carries.0),
                ("carries_to", carries.1),
            ],
            Self::SkirtBead { diameter } => vec![("diameter_m", diameter.0)],
            Self::Skirt { past, .. } => vec![("past_m", past.0)],
            Self::ClevisRoom { clearance, least } => {
                vec![("clearance_m", clearance.0), ("least_m", least.0)]
            }
            Self::AboveClevis { parts } => vec![("parts", f64::from(parts))],
            Self::HookSpacing { spacing, range } => vec![
                ("spacing_m", spacing.0),
                ("least_m", range.0.0),
                ("most_m", range.1.0),
            ],
            Self::Leader { lead, range } => vec![
                ("lead_m", lead.0),
                ("least_m", range.0.0),
                ("most_m", range.1.0),
            ],
            Self::Netting { lead, rod } => vec![("lead_m", lead.0), ("rod_m", rod.0)],
            Self::Snell { wraps } => vec![("wraps", f64::from(wraps))],
            Self::WireEye { wraps, tail } => {
                vec![("wraps", f64::from(wraps)), ("tail_m", tail.0)]
            }
            Self::AttractorLead { lead, quick, easy } => vec![
                ("lead_m", lead.0),
                ("least_m", quick.0.0),
                ("most_m", easy.1.0),
            ],
            Self::Window { from, to, .. } => {
                let mut figures = vec![("from_mps", from.0)];
                figures.extend(to.map(|to| ("to_mps", to.0)));
                figures
            }
            Self::Cut {
                whole,
                finished,
                left,
            } => {
                let mut figures = vec![("cut_m", whole.0), ("finished_m", finished.0)];
                figures.extend(left.map(|left| ("left_m", left.0)));
                figures
            }
            Self::Stock { short } => vec![("short", f64::from(short))],
            Self::QuickChange { clear, of, worst } => vec![
                ("clear", f64::from(clear)),
                ("of", f64::from(of)),
                ("worst_m", worst.0),
            ],
            Self::Hook
            | Self::OnClevis
            | Self::Bearing
            | Self::Bumper
            | Self::Twist
            | Self::Sinks(_) => Vec::new(),
        }
    }
}
