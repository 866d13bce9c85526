use crate::keyed::keyed;
use crate::units::{MILE_PER_HOUR, MetresPerSecond};

/// The kinds of bladed rig, each with its own build and its own practice.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub enum Kind {
    /// Inline wire spinner with a slim, dense body.
    InlineTorpedo,
    /// Inline wire spinner with a large body that stays up.
    InlineBell,
    /// Trolling wire spinner, bare or dressed.
    TrollingWire,
    /// Inline with bead body and a weight hidden under its skirt.
    TailWeighted,
    /// Salmon wire spinner.
    SalmonWire,
    /// Ring-bead trout spinner on a leader.
    RingBead,
    /// Wing blade on a bent-shank worm hook.
    WingWorm,
    /// Two-hook (or single-hook) crawler harness.
    CrawlerHarness,
    /// Fast harness with double willow or a spoon blade.
    FastHarness,
    /// Tinsel fly or squid with a wing, run behind a rotating flasher.
    FlasherFly,
    /// Bait head cap on a sliding rig with a blade in front.
    BaitSpinner,
    /// Unweighted leader spinner with a squid.
    LeaderSquid,
    /// A bare bait hook: the last resort.
    BareHook,
    /// An attractor with a spinner behind it, or bare with a rudder.
    Attractor,
}

/// Where practice runs a kind of rig (common practice, no source).
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Practice {
    /// Slowest speed in use.
    pub from: MetresPerSecond,
    /// Fastest speed in use.
    pub to: MetresPerSecond,
    /// The favourite.
    pub favourite: MetresPerSecond,
}

keyed!(Kind {
    InlineTorpedo "inline_torpedo" "inline spinner, torpedo body",
    InlineBell "inline_bell" "inline spinner, bell body",
    TrollingWire "trolling_wire" "trolling wire spinner",
    TailWeighted "tail_weighted" "tail-weighted inline",
    SalmonWire "salmon_wire" "salmon wire spinner",
    RingBead "ring_bead" "ring-bead trout spinner",
    WingWorm "wing_worm" "wing on a worm hook",
    CrawlerHarness "crawler_harness" "crawler harness",
    FastHarness "fast_harness" "fast harness",
    FlasherFly "flasher_fly" "flasher fly",
    BaitSpinner "bait_spinner" "bait spinner",
    LeaderSquid "leader_squid" "leader spinner with squid",
    BareHook "bare_hook" "bare bait hook",
    Attractor "attractor" "attractor rig",
});

impl Kind {
    /// Whether it is built on wire.
    pub fn is_on_wire(self) -> bool {
        matches!(
            self,
            Self::InlineTorpedo
                | Self::InlineBell
                | Self::TrollingWire
                | Self::TailWeighted
                | Self::SalmonWire
        )
    }

    /// Whether it turns a blade at all.
    pub fn has_blade(self) -> bool {
        self != Self::BareHook
    }

    /// Whether it may go out without a blade: the bare hook, and an attractor with a fly or a bait behind it.
    pub fn may_go_bare(self) -> bool {
        matches!(self, Self::BareHook | Self::Attractor | Self::FlasherFly)
    }

    /// Whether it can be cast: a body of its own, or a weight up the line, and nothing that swings ahead (common practice, no
    /// source).
    pub fn is_cast(self) -> bool {
        matches!(
            self,
            Self::InlineTorpedo
                | Self::InlineBell
                | Self::TailWeighted
                | Self::RingBead
                | Self::LeaderSquid
                | Self::WingWorm
                | Self::BareHook
        )
    }

    /// Whether it carries a body or a weight of its own.
    pub fn has_body(self) -> bool {
        matches!(
            self,
            Self::InlineTorpedo | Self::InlineBell | Self::TailWeighted
        )
    }

    /// Speeds at which practice trolls it, where practice names them (CP-03 and CP-05 of the
    /// trade's rules; common practice, no source).
    pub fn practice(self) -> Option<Practice> {
        matches!(
            self,
            Self::WingWorm
                | Self::CrawlerHarness
                | Self::TrollingWire
                | Self::InlineTorpedo
                | Self::RingBead
        )
        .then(|| self.trolled())
    }

    /// Speeds it is trolled at: those of [`Self::practice`], for the other kinds from memory.
    pub fn trolled(self) -> Practice {
        let (from, to, favourite) = match self {
            Self::WingWorm => (0.6, 1.0, 0.8),
            Self::CrawlerHarness => (1.0, 1.5, 1.2),
            Self::TrollingWire | Self::InlineTorpedo => (1.5, 3.0, 2.0),
            Self::InlineBell | Self::TailWeighted => (1.0, 2.5, 1.6),
            Self::RingBead => (0.5, 2.1, 1.2),
            Self::FastHarness => (1.4, 2.8, 2.0),
            Self::SalmonWire => (1.6, 3.2, 2.3),
            Self::FlasherFly => (1.6, 3.0, 2.3),
            Self::BaitSpinner | Self::LeaderSquid => (1.0, 2.4, 1.6),
            Self::Attractor => (1.0, 2.2, 1.5),
            Self::BareHook => (0.3, 1.0, 0.6),
        };
        Practice {
            from: from * MILE_PER_HOUR,
            to: to * MILE_PER_HOUR,
            favourite: favourite * MILE_PER_HOUR,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::Kind;

    #[test]
    fn a_favourite_lies_in_its_range() {
        for practice in Kind::ALL.iter().map(|kind| kind.trolled()) {
            assert!(practice.from <= practice.favourite && practice.favourite <= practice.to);
        }
    }
}
