//! What to let out for depths at speeds, for one rod.

use super::frame;
use crate::forms::tank::Settled;
use crate::screens::{LineTable, Screen};
use crate::seen::Seen;
use crate::units::{Quantity, System};
use crate::words;
use motilis_core::line::{Line, OutFor};
use motilis_core::units::{Metres, MetresPerSecond};
use motilis_helm::{Error, Tank as Question};

/// Speeds across the table.
const COLUMNS: usize = 7;
/// Depths down it.
const ROWS: usize = 14;

/// The table of a rig on its line, about the speed it is towed at.
///
/// # Errors
/// [`Error::Core`] for a line that cannot be.
pub fn line_table(tank: &Seen<Question<'_, '_>>, settled: &Settled) -> Result<LineTable, Error> {
    let (here, system) = (tank.here, tank.device.system);
    let line = Line::new(&settled.runs, &settled.in_use, tank.surroundings)?;
    let (speed_unit, depth_unit) = (Quantity::Speed.unit(system), Quantity::Depth.unit(system));
    let step = match system {
        System::Imperial => 0.2,
        System::Metric => 0.3,
    };
    let middle = (speed_unit.from_si(settled.speed.0) / step).round();
    let first = (middle - 3.0).max(1.0);
    let speeds: Vec<f64> = (0..COLUMNS).map(|i| (first + i as f64) * step).collect();
    let deepest = depth_unit.from_si(here.outing.bottom.0);
    let rung = [0.5, 1.0, 2.0, 5.0, 10.0, 20.0]
        .into_iter()
        .find(|rung| deepest / rung <= ROWS as f64)
        .unwrap_or(50.0);
    let rows = (1..=ROWS as u32)
        .map(|i| f64::from(i) * rung)
        .take_while(|depth| *depth <= deepest)
        .map(|depth| {
            let cells = speeds.iter().map(|speed| {
                let speed = MetresPerSecond(speed_unit.to_si(*speed));
                match line.out_for(speed, Metres(depth_unit.to_si(depth))) {
                    Ok(OutFor::Out(run)) => system.depth(run.out).value,
                    _ => String::new(),
                }
            });
            (format!("{depth}"), cells.collect())
        })
        .collect();
    let sure = line
        .run(settled.speed, settled.out)
        .ok()
        .and_then(|run| line.sure(settled.speed, run.out))
        .map_or_else(String::new, |sure| {
            format!(
                "At {} with {} out eight cases of ten run between {} down.",
                system.speed(settled.speed),
                system.depth(settled.out),
                system.between(sure.depth.low, sure.depth.high)
            )
        });
    let mut cautions = words::cautions_of_day(&here.outing, system);
    cautions.extend(words::caution_of_setup(&settled.in_use));
    Ok(LineTable {
        frame: frame(Some(here), Screen::Tank, tank.device, "/tank"),
        of: (settled.rig.id.0, settled.setup.0),
        head: format!(
            "{} on {}",
            settled.runs.name,
            words::weight(&settled.in_use, system)
        ),
        on: format!(
            "{}, {} lb {}, lead {}; {} {}",
            settled.in_use.name,
            settled.in_use.main.test_lb,
            settled.in_use.main.material.name(),
            system.depth(settled.in_use.lead),
            if settled.in_use.lets_out_cable() {
                "cable, in"
            } else {
                "line out, in"
            },
            depth_unit.symbol
        ),
        units: (speed_unit.symbol, depth_unit.symbol),
        speeds: speeds.iter().map(|speed| format!("{speed:.1}")).collect(),
        rows,
        sure,
        cautions,
    })
}
