//! The Motilis program: reads the arguments and joins the crates.

mod boat;
mod files;
mod ride;
mod serve;
mod solve;
mod tls;

use clap::{Parser, Subcommand};
use std::path::PathBuf;
use std::process::ExitCode;

/// Bench, planner and boat book for trolling anglers.
#[derive(Debug, Parser)]
#[command(name = "motilis", version)]
struct Arguments {
    #[command(subcommand)]
    command: Command,
}

#[derive(Debug, Subcommand)]
enum Command {
    /// Start the web application on a data file.
    Serve {
        /// The data file; made when it does not exist.
        #[arg(long, default_value = "motilis.db")]
        data: PathBuf,
        #[command(flatten)]
        listen: Listen,
    },
    /// Start it on a fresh demo data file.
    Demo {
        /// Where to keep the demo file; a temporary folder when not given. An existing file is replaced.
        #[arg(long)]
        data: Option<PathBuf>,
        /// The season many times over, 2 000 outings and 100 000 entries: to see how it bears twenty years.
        #[arg(long)]
        many: bool,
        /// How many times as fast as life the simulated boat and the clock go.
        #[arg(long, default_value_t = 1.0)]
        pace: f64,
        #[command(flatten)]
        listen: Listen,
    },
    /// The instruments of a simulated boat, or of a recording, for others to call up (NMEA 0183 over TCP).
    Boat(boat::BoatArguments),
    /// Write the box, or the tying sheet of a rig, to standard output or a file.
    Export {
        #[command(subcommand)]
        what: files::Export,
    },
    /// Read parts into the box: all of them, or none with each bad line named.
    Import {
        #[command(subcommand)]
        what: files::Import,
    },
    /// A recording of the boat's instruments (NMEA 0183): one row a second, its faults, or its track.
    Ride(ride::Ride),
    /// Answer one computation: a JSON object on standard input, its answer on standard output.
    Solve {
        /// `towline`, `blade` or `rig`.
        what: String,
        /// Read JSON lines, and answer each on a line of its own.
        #[arg(long)]
        lines: bool,
    },
}

/// Where the web application is to be found.
#[derive(Debug, clap::Args)]
struct Listen {
    /// Address to listen on; only this machine can reach the default.
    #[arg(long = "listen", value_name = "ADDR", default_value = "127.0.0.1:8620")]
    address: String,
    /// A name, beside plain addresses, under which changes are taken; may be repeated.
    #[arg(long)]
    host: Vec<String>,
    /// Answer over https, with a certificate that is made once and kept beside the data file.
    #[arg(long)]
    tls: bool,
    /// A certificate of your own for it, PEM.
    #[arg(long, requires = "tls_key", value_name = "FILE")]
    tls_cert: Option<PathBuf>,
    /// Its private key, PEM.
    #[arg(long, requires = "tls_cert", value_name = "FILE")]
    tls_key: Option<PathBuf>,
}

fn main() -> ExitCode {
    let outcome = match Arguments::parse().command {
        Command::Serve { data, listen } => serve::serve(&data, listen),
        Command::Demo {
            data,
            many,
            pace,
            listen,
        } => serve::demo(data, many, pace, listen),
        Command::Boat(boat) => boat::boat(&boat),
        Command::Export { what } => files::export(what),
        Command::Import { what } => files::import(what),
        Command::Ride(ride) => ride::ride(&ride),
        Command::Solve { what, lines } => return solve::solve(&what, lines),
    };
    match outcome {
        Ok(()) => ExitCode::SUCCESS,
        Err(error) => {
            eprintln!("motilis: {error:#}");
            ExitCode::FAILURE
        }
    }
}
