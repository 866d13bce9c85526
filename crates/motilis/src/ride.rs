use anyhow::{Context, Result, bail};
use clap::Args;
use motilis_formats::nmea;
use motilis_formats::write_gpx;
use std::fs::File;
use std::io::{self, Read, Write};
use std::path::PathBuf;

/// `motilis ride FILE`
#[derive(Debug, Args)]
pub(crate) struct Ride {
    /// The recording; `-` is standard input.
    file: PathBuf,
    /// One row a second, figures in SI: what is done when nothing else is asked for.
    #[arg(long, conflicts_with_all = ["counts", "gpx"])]
    csv: bool,
    /// How many sentences came, and what became of them, as JSON.
    #[arg(long, conflicts_with = "gpx")]
    counts: bool,
    /// Its track as GPX 1.1.
    #[arg(long)]
    gpx: bool,
}

/// Reads a recording and writes what was asked for to standard output.
pub(crate) fn ride(asked: &Ride) -> Result<()> {
    let name = asked.file.display();
    let file: Box<dyn Read> = if asked.file.as_os_str() == "-" {
        Box::new(io::stdin())
    } else {
        Box::new(File::open(&asked.file).with_context(|| format!("{name} cannot be opened"))?)
    };
    let ride = nmea::ride(file).with_context(|| format!("{name} cannot be read"))?;
    let to = io::stdout().lock();
    if asked.counts {
        serde_json::to_writer(to, &ride.counts)?;
        say!();
        return Ok(());
    }
    if ride.rows.is_empty() {
        bail!(
            "{name} holds no time: of {} lines none was a sound sentence of a receiver with a fix",
            ride.counts.sentences
        );
    }
    if asked.gpx {
        let stem = asked
            .file
            .file_stem()
            .map_or_else(String::new, |stem| stem.to_string_lossy().into_owned());
        let track = ride
            .track(&stem)
            .with_context(|| format!("{name} makes no track"))?;
        let mut to = to;
        to.write_all(write_gpx(Some(&track), &[]).as_bytes())?;
        return Ok(());
    }
    Ok(ride.write_csv(to)?)
}
