//! What stirs beside the blade, and what it does to the line: attractor, spinning bait, twist, the leader's stiffness.

use crate::screens::{Fact, Kind};
use crate::units::System;
use crate::words;
use motilis_core::line::{End, Twist};
use motilis_core::rig::{Attraction, BaitSpin, Holder, Spin, Stir, SwivelStyle};
use motilis_core::tackle::{LineStock, Release};
use motilis_core::units::{MILLIMETRE, Metres, MetresPerSecond, Newtons};

fn fact(label: &'static str, value: String, from: impl Into<String>) -> Fact {
    Fact {
        label,
        value,
        kind: Kind::Computed,
        from: from.into(),
    }
}

/// A bait that spins of itself.
pub(crate) fn bait(spun: &BaitSpin) -> Fact {
    let by = if spun.cap { "head cap" } else { "bent shank" };
    fact(
        "Bait turns a minute",
        words::turns_a_minute(spun.turns),
        format!(
            "the {by} bends it by {:.0}°: it sweeps {} across, at any speed. A model of ours, designed; a tighter bend turns it tighter",
            spun.angle.degrees(),
            millimetres(2.0 * spun.radius)
        ),
    )
}

/// The attractor ahead, with the speeds it works at.
pub(crate) fn attractor(one: &Attraction, system: System) -> [Fact; 2] {
    let speed = |v: MetresPerSecond| system.speed(v);
    let does = match one.stir {
        Stir::Trails => "trails, too slow to stir".to_owned(),
        Stir::RollsOver => "too fast: rolls over".to_owned(),
        Stir::Swings | Stir::Turns => format!(
            "{} {:.1} times a second, {} to the side",
            one.stir.name(),
            one.beat.0,
            words::force(one.side_force.0, system)
        ),
    };
    let window = one.window.to.map_or_else(
        || format!("from {}", speed(one.window.from)),
        |to| format!("{}–{}", speed(one.window.from).value, speed(to)),
    );
    [
        fact(
            "Attractor",
            format!("{} {does}", one.style.name()),
            "drag, side force and beat by its length; a model of ours, designed",
        ),
        Fact {
            label: "Attractor works",
            value: window,
            kind: Kind::FromMemory,
            from: "a 6 in dodger swings from about 1 mph and rolls over above some 2, a rotating flasher wants 2 to 3.5; with the root of the length".to_owned(),
        },
    ]
}

/// What holds a rig from turning its line, or that nothing does.
pub(crate) fn held(spin: &Spin) -> Fact {
    let value = match spin.held_by {
        Holder::NoTorque => "nothing turns it".to_owned(),
        Holder::Hooks => "hooks and bait hold it".to_owned(),
        Holder::Rudder => "the rudder holds it".to_owned(),
        Holder::Attractor => "the attractor holds it".to_owned(),
        Holder::Nothing => match spin.swivel {
            Some((style, _)) if spin.swivel_turns() => {
                format!("nothing holds it; the {} takes most", style.name())
            }
            Some((style, _)) => format!("nothing holds it; the {} does not turn", style.name()),
            None => "nothing holds it".to_owned(),
        },
    };
    fact(
        "Against twist",
        value,
        format!(
            "{:.0} µN·m on the shaft from clevis and bait{}. A rudder or an attractor ahead stops it; a hook in a wire’s eye holds nothing",
            spin.torque.0 * 1e6,
            spin.swivel
                .map_or_else(String::new, |(style, friction)| format!(
                    "; {} turns only above {:.0} µN·m under this pull{}",
                    article(style),
                    friction.0 * 1e6,
                    " (friction and radius from memory)"
                ))
        ),
    )
}

fn millimetres(length: Metres) -> String {
    format!("{:.0} mm", length / MILLIMETRE)
}

fn article(style: SwivelStyle) -> String {
    format!("a {}", style.name())
}

/// A diver's release under the rig's pull.
pub(crate) fn release(release: &Release, system: System) -> Fact {
    let pull = words::force(release.pull.0, system);
    let value = match release.at {
        None => format!("never lets go; the rig’s {pull}"),
        Some(at) if release.trips() => format!(
            "trips by itself: the rig’s {pull} against {}",
            words::force(at.0, system)
        ),
        Some(at) if release.may_trip() => format!(
            "perhaps by itself: about {}, and the rig’s {pull}",
            words::force(at.0, system)
        ),
        Some(at) => format!("at about {}; the rig’s {pull}", words::force(at.0, system)),
    };
    Fact {
        label: "Diver lets go",
        value,
        kind: Kind::FromMemory,
        from: format!(
            "what its hole holds, from memory, a quarter more or less; this rig’s own pull wants “{}” or harder. Try it by hand before it goes out",
            release.hole.name()
        ),
    }
}

/// Turns that the line takes up.
pub(crate) fn twist(twist: &Twist, system: System) -> Fact {
    let value = if twist.turns < 1.0 {
        "none".to_owned()
    } else {
        let coils = if twist.coils {
            "; coils when it goes slack"
        } else {
            ""
        };
        format!(
            "{:.0} turns in {} of line{coils}",
            twist.turns,
            system.depth(twist.length)
        )
    };
    let ends = match twist.ends_at {
        End::Weight => "the weight, which does not turn",
        End::Release => "the release",
        End::Rod => "the rod",
    };
    fact(
        "Twist it stores",
        value,
        format!(
            "M L / (2π G J) of the line up to {ends}, shear modulus of nylon 1 GPa (from memory); wound up in {}. What stops it: a rudder or attractor ahead, less so a ball-bearing swivel",
            words::stretch(twist.seconds)
        ),
    )
}

/// The leader behind an attractor: whether its stiffness passes the kick.
pub(crate) fn stiffness(leader: &LineStock, pull: Newtons, length: Metres) -> Fact {
    let bends = leader.bends_within(pull);
    let turn = std::f64::consts::TAU * leader.torsion() / length.0.max(1e-3);
    fact(
        "Leader’s stiffness",
        format!("bends within {}", millimetres(bends)),
        format!(
            "√(E I / T). Practice: a heavy, stiff leader passes the attractor’s kick on. Physics: under this pull {} lb {} bends round within that length, so its bending passes nothing; a full turn of its head gives {:.0} µN·m, which it does pass. The kick goes over by the leader’s length",
            leader.test_lb,
            leader.material.name(),
            turn * 1e6
        ),
    )
}
