use anyhow::{Context, Result, bail};
use clap::Args;
use jiff::Timestamp;
use motilis_core::units::{MILE_PER_HOUR, MetresPerSecond};
use motilis_live::simulator::{Bed, Helm, Order, Simulator};
use motilis_live::{BoatServer, PACES};
use std::path::PathBuf;

/// Where the simulated boat is when nobody says: on the invented Lake Tamarin.
const LAKE: [f64; 2] = [50.42, -95.61];

/// `motilis boat`
#[derive(Debug, Args)]
pub(crate) struct BoatArguments {
    /// A recording to say again and again instead.
    #[arg(long)]
    file: Option<PathBuf>,
    /// Address to answer at; only this machine can reach the default.
    #[arg(long, default_value = "127.0.0.1:10110")]
    listen: String,
    /// How many times as fast as life.
    #[arg(long, default_value_t = 1.0)]
    pace: f64,
    /// Speed through the water, miles an hour.
    #[arg(long, default_value_t = 1.2)]
    mph: f64,
    /// Number of the lake's bed.
    #[arg(long, default_value_t = 27)]
    seed: u64,
}

/// Lets others call up a boat's instruments, until it is stopped.
pub(crate) fn boat(asked: &BoatArguments) -> Result<()> {
    if !PACES.contains(&asked.pace) {
        bail!("--pace {} is not between 0.5 and 20", asked.pace);
    }
    if !(0.2..=5.0).contains(&asked.mph) {
        bail!("--mph {} is not between 0.2 and 5", asked.mph);
    }
    let server = BoatServer::bind(&asked.listen)
        .with_context(|| format!("cannot listen on {}", asked.listen))?;
    say!("A boat's instruments are at tcp {}", server.address());
    if let Some(file) = &asked.file {
        return server
            .replay(file, asked.pace)
            .with_context(|| format!("{} cannot be read", file.display()));
    }
    let s_turns = Order::STurns {
        heading_deg: 60.0,
        angle_deg: 30.0,
        seconds: 240.0,
    };
    let mut helm = Helm::new([-300.0, -300.0], s_turns, asked.mph * MILE_PER_HOUR);
    helm.wind = (250.0, MetresPerSecond(3.5));
    let boat = Simulator::new(
        Bed::new(asked.seed),
        helm,
        LAKE,
        Timestamp::now(),
        asked.seed,
    );
    server.sail(boat, asked.pace);
    Ok(())
}
