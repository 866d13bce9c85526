use crate::IN_CATALOGUE;
use crate::rigs::DemoRig;
use crate::setups::Setups;
use jiff::Timestamp;
use motilis_core::blade::Observation;
use motilis_core::book::{
    BottomTouch, DunkTest, LureId, PlannedRod, PlannedSpread, SetupId, SpreadId, Tackle,
};
use motilis_core::line::{Learned, Line, LineSetup, Surroundings};
use motilis_core::rig::Practice;
use motilis_core::spread::{DiveTable, Holder, Lure, SetOut, Spread, Stance, Towed};
use motilis_core::tackle::{LineMaterial, LineStock};
use motilis_core::units::{Celsius, FOOT, Hertz, MILE_PER_HOUR, Metres};
use motilis_core::water::Water;
use motilis_store::{Connection, Error, lures, observed, spreads};
use std::sync::Arc;

/// The water of the open day, near enough to set lines by.
fn surroundings() -> Surroundings {
    let temperature = Celsius(14.4);
    Surroundings {
        water: Water::fresh(temperature).expect(IN_CATALOGUE),
        temperature,
        bottom: Some(27.0 * FOOT),
    }
}

/// A rod with what it tows, before it is set.
struct Plan<'a> {
    holder: &'static str,
    stance: Stance,
    rod_feet: f64,
    board: Option<f64>,
    above: Option<f64>,
    towed: Result<&'a DemoRig, (LureId, Lure)>,
    setup: &'a (SetupId, LineSetup),
    wanted_feet: f64,
}

impl Plan<'_> {
    fn rod(&self) -> (PlannedRod, Towed) {
        let (tackle, towed) = match &self.towed {
            Ok(rig) => (Tackle::Rig(rig.id), Towed::Rig(Arc::new(rig.rig.clone()))),
            Err((id, lure)) => (Tackle::Lure(*id), Towed::Lure(Arc::new(lure.clone()))),
        };
        let (setup_id, setup) = self.setup;
        let rod = PlannedRod {
            holder: Holder::from_key(self.holder).expect(IN_CATALOGUE),
            stance: self.stance,
            length: self.rod_feet * FOOT,
            board: self.board.map(|board| board * FOOT),
            above: self.above.map(|above| above * FOOT),
            tackle,
            setup: *setup_id,
            weight: setup.weight.and_then(|weight| weight.mass()),
            lead: setup.lead,
            out: 40.0 * FOOT,
            wanted: self.wanted_feet * FOOT,
        };
        (rod, towed)
    }
}

/// The rods set for their depths at a speed.
fn set(name: &str, mph: f64, plans: &[Plan<'_>]) -> Result<PlannedSpread, motilis_core::Error> {
    let (mut rods, made): (Vec<_>, Vec<_>) = plans
        .iter()
        .map(|plan| {
            let (rod, towed) = plan.rod();
            let in_use = plan.setup.1.changed(&rod.changes());
            (rod, rod.rod(Arc::new(in_use), towed))
        })
        .unzip();
    let mut spread = Spread {
        speed: mph * MILE_PER_HOUR,
        rods: made,
    };
    for line in 0..rods.len() {
        if let SetOut::Out(out) = spread.out_for(line, &surroundings())? {
            // To the foot, as a counter or a mark on the line has it.
            let out = (out / FOOT).round() * FOOT;
            for (other, rod) in rods.iter_mut().enumerate() {
                if other == line || spread.share_a_cable(line, other) {
                    rod.out = out;
                    spread.rods[other].out = out;
                }
            }
        }
    }
    Ok(PlannedSpread {
        name: name.to_owned(),
        speed: spread.speed,
        rods,
    })
}

fn plug() -> Result<Lure, motilis_core::Error> {
    let pairs = [
        (40.0, 5.0),
        (60.0, 7.5),
        (80.0, 9.5),
        (120.0, 13.0),
        (160.0, 15.5),
    ];
    let pairs = pairs.map(|(out, depth)| (out * FOOT, depth * FOOT));
    let speeds = Practice {
        from: 1.0 * MILE_PER_HOUR,
        favourite: 1.6 * MILE_PER_HOUR,
        to: 2.4 * MILE_PER_HOUR,
    };
    Lure::new(
        "Diving plug, perch",
        speeds,
        DiveTable::new(pairs.to_vec())?,
    )
    .map(|lure| lure.measured_on(LineStock::of_test(LineMaterial::Nylon, 10).ok()))
}

/// Adds two spreads, the evening's being the one that is open.
pub fn add(connection: &Connection, rigs: &[DemoRig], rods: &Setups) -> Result<SpreadId, Error> {
    let rig = |name: &str| {
        rigs.iter()
            .find(|one| one.rig.name == name)
            .expect(IN_CATALOGUE)
    };
    let plug = plug().expect(IN_CATALOGUE);
    let lure = lures::add(connection, &plug)?;
    let plan = |holder, stance, rod_feet, setup, towed, wanted_feet| Plan {
        holder,
        stance,
        rod_feet,
        board: None,
        above: None,
        towed,
        setup,
        wanted_feet,
    };
    let board = |holder, feet, towed, wanted| Plan {
        board: Some(feet),
        ..plan(holder, Stance::Corner, 7.0, &rods.board, towed, wanted)
    };
    let corner = |holder, setup, name: &str, wanted| {
        plan(holder, Stance::Corner, 7.0, setup, Ok(rig(name)), wanted)
    };
    let evening = [
        board("P4", 70.0, Ok(rig("Tamarin two-hook")), 18.0),
        corner("P1", &rods.light_bouncer, "Slow wing", 22.0),
        corner("S1", &rods.heavy_bouncer, "Indiana single", 24.0),
        board("S4", 70.0, Ok(rig("Indiana two-hook")), 20.0),
    ];
    let rigger = |holder, above, name: &str, wanted| Plan {
        above: Some(above),
        ..plan(
            holder,
            Stance::Inside,
            8.0,
            &rods.downrigger,
            Ok(rig(name)),
            wanted,
        )
    };
    let salmon = [
        Plan {
            board: Some(80.0),
            ..plan(
                "P5",
                Stance::Corner,
                7.0,
                &rods.plain_board,
                Err((lure, plug)),
                8.0,
            )
        },
        plan(
            "P3",
            Stance::Long,
            9.0,
            &rods.side_diver,
            Ok(rig("Wire trout")),
            16.0,
        ),
        rigger("P7", 0.0, "Squid on a leader", 24.0),
        rigger("P8", 8.0, "Orrin magnum", 16.0),
        plan(
            "S3",
            Stance::Long,
            9.0,
            &rods.side_diver,
            Ok(rig("Tail weight")),
            14.0,
        ),
        Plan {
            board: Some(90.0),
            ..plan(
                "S5",
                Stance::Corner,
                7.0,
                &rods.core_board,
                Ok(rig("Ring-bead rainbow")),
                12.0,
            )
        },
    ];
    let open = spreads::add(
        connection,
        &set("Evening, four lines", 1.2, &evening).expect(IN_CATALOGUE),
    )?;
    spreads::add(
        connection,
        &set("Salmon, six lines", 1.8, &salmon).expect(IN_CATALOGUE),
    )?;
    observations(connection, rig("Double willow"), rods)?;
    Ok(open)
}

/// Touches of the bottom with the heavy bouncer, whose line is held a little harder than usual, and a dunk test.
fn observations(connection: &Connection, rig: &DemoRig, rods: &Setups) -> Result<(), Error> {
    let (setup_id, setup) = &rods.heavy_bouncer;
    let held = LineSetup {
        learned: Learned {
            held: 1.15,
            touches: 0,
        },
        ..setup.clone()
    };
    let open = Surroundings {
        bottom: None,
        ..surroundings()
    };
    let at: Timestamp = "2026-06-01T14:00:00Z".parse().expect(IN_CATALOGUE);
    let seen = [
        (40.0, 1.5, true),
        (50.0, 1.6, true),
        (60.0, 1.6, true),
        (55.0, 1.7, true),
        (70.0, 1.8, true),
        (45.0, 1.7, false),
    ];
    for (feet, mph, touched) in seen {
        let (out, speed) = (feet * FOOT, mph * MILE_PER_HOUR);
        let run = Line::new(&rig.rig, &held, open)
            .and_then(|line| line.run(speed, out))
            .expect(IN_CATALOGUE);
        let deepest = run.weight.map_or(run.rig.depth.0, |weight| {
            weight.depth.0.max(run.rig.depth.0)
        });
        // A sounder shows whole feet.
        let feet = (deepest / FOOT.0).round() + if touched { 0.0 } else { 2.0 };
        let touch = BottomTouch {
            rig: rig.id,
            setup: *setup_id,
            main: setup.main,
            weight: setup.weight.and_then(|weight| weight.mass()),
            lead: setup.lead,
            out,
            bottom: Metres(feet * FOOT.0),
            speed,
            touched,
            at,
        };
        observed::add_touch(connection, &touch)?;
    }
    let (blade, _) = rig.rig.front_blade().expect(IN_CATALOGUE);
    let dunk = DunkTest {
        seen: Observation::Turned {
            rate: Hertz(4.9),
            speed: 1.8 * MILE_PER_HOUR,
        },
        temperature: Celsius(14.0),
        salt: false,
        family: blade.family,
        length: blade.length,
        at,
    };
    observed::add_dunk(connection, rig.id, &dunk)?;
    Ok(())
}
