//! The Motilis program: reads the arguments and joins the crates.

/// Says a line in the terminal. Where nobody reads it any more (`motilis serve | head -1`) the program goes on.
macro_rules! say {
    ($($line:tt)*) => {{
        use std::io::Write as _;
        let _ = writeln!(std::io::stdout(), $($line)*);
    }};
}

mod boat;
mod data;
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
#[command(
    name = "motilis",
    version,
    after_help = "Environment: RUST_LOG says what is logged (error, warn, info, debug; warn when not set; info logs each request). \
        MOTILIS_DATA, MOTILIS_LISTEN and MOTILIS_COPIES stand for --data, --listen and --copies."
)]
struct Arguments {
    #[command(subcommand)]
    command: Command,
}

#[derive(Debug, Subcommand)]
enum Command {
    /// Start the web application on a data file.
    Serve {
        #[command(flatten)]
        file: data::File,
        /// Of a damaged file, serve what can be read; the file itself is not touched.
        #[arg(long)]
        rescue: bool,
        #[command(flatten)]
        listen: Listen,
    },
    /// Start it on a fresh demo data file.
    Demo {
        /// Where to keep the demo file; a temporary folder when not given. An earlier demo file is replaced, any other file is not.
        #[arg(long)]
        data: Option<PathBuf>,
        /// The season many times over, 2 000 outings, 100 000 entries, 10 000 parts and 5 000 rigs: to see how it bears twenty years.
        #[arg(long)]
        many: bool,
        /// How many times as fast as life the simulated boat and the clock go.
        #[arg(long, default_value_t = 1.0)]
        pace: f64,
        #[command(flatten)]
        listen: Listen,
    },
    /// Copy the data file, also while it is in use.
    Backup(data::Backup),
    /// Put a copy in the data file's place; what it replaces is kept.
    Restore(data::Restore),
    /// Look the data file through: structure, names, every record.
    Check(data::Check),
    /// Clear out what was thrown away long ago, old steps of undo, and the room they took.
    Tidy(data::Tidy),
    /// Set the pass phrase that other devices are asked for.
    PassPhrase(data::PassPhrase),
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
    #[arg(
        long = "listen",
        value_name = "ADDR",
        default_value = "127.0.0.1:8620",
        env = "MOTILIS_LISTEN"
    )]
    address: String,
    /// A name, beside plain addresses and localhost, under which it is opened, such as heron.local; any other name is refused, since a
    /// foreign page could point one at this machine. May be repeated.
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
    /// Ask nobody for a pass phrase, although others reach the address.
    #[arg(long, conflicts_with = "sign_in")]
    no_sign_in: bool,
    /// Ask everybody for a pass phrase, whoever sits at this machine, too: behind a program that passes requests on.
    #[arg(long)]
    sign_in: bool,
    #[command(flatten)]
    log: Log,
}

/// What is written down of what happens.
#[derive(Debug, clap::Args)]
struct Log {
    /// Write the log to a file, at its end, and not to standard error.
    #[arg(long, value_name = "FILE")]
    log_file: Option<PathBuf>,
    /// Write the log as JSON, a line an entry.
    #[arg(long)]
    log_json: bool,
}

impl Listen {
    fn secure(&self) -> bool {
        self.tls || self.tls_cert.is_some()
    }
}

fn main() -> ExitCode {
    let outcome = match Arguments::parse().command {
        Command::Serve {
            file,
            rescue,
            listen,
        } => serve::serve(&file.data, file.copies, rescue, listen),
        Command::Backup(asked) => data::backup(&asked),
        Command::Restore(asked) => data::restore(&asked),
        Command::Check(asked) => data::check(&asked),
        Command::Tidy(asked) => data::tidy(&asked),
        Command::PassPhrase(asked) => data::pass_phrase(&asked),
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
