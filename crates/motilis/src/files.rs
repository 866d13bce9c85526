use anyhow::{Context, Result, bail};
use askama::Template;
use clap::{Args, Subcommand};
use motilis_core::book::Board;
use motilis_formats::{Format, read, write, write_fish, write_log, write_passes};
use motilis_helm::WholeLog;
use motilis_store::{Store, parts, rigs};
use motilis_view::draw::{Paper, Sheet};
use std::io::{Read, Write};
use std::path::{Path, PathBuf};

/// `motilis export …`
#[derive(Debug, Subcommand)]
pub(crate) enum Export {
    /// The tying sheet of a rig, at true size.
    Sheet {
        /// The rig's name or number.
        rig: String,
        /// As PDF; as SVG when not given.
        #[arg(long)]
        pdf: bool,
        /// `a4` or `letter`.
        #[arg(long, default_value = "a4")]
        paper: String,
        /// The data file.
        #[arg(long, default_value = "motilis.db")]
        data: PathBuf,
        /// Where to write it; standard output when not given.
        #[arg(long, short)]
        output: Option<PathBuf>,
    },
    /// Every entry of the log, figures in SI.
    Log(Table),
    /// Every pass: which rod had what in the water, where and how, from when to when.
    Passes(Table),
    /// Every fish.
    Fish(Table),
    /// Every part of the box.
    Parts {
        /// As JSON; as CSV when not given.
        #[arg(long)]
        json: bool,
        /// The data file.
        #[arg(long, default_value = "motilis.db")]
        data: PathBuf,
        /// Where to write it; standard output when not given.
        #[arg(long, short)]
        output: Option<PathBuf>,
    },
}

/// A table out of a data file.
#[derive(Debug, Args)]
pub(crate) struct Table {
    /// As JSON; as CSV when not given.
    #[arg(long)]
    json: bool,
    /// The data file.
    #[arg(long, default_value = "motilis.db")]
    data: PathBuf,
    /// Where to write it; standard output when not given.
    #[arg(long, short)]
    output: Option<PathBuf>,
}

/// `motilis import …`
#[derive(Debug, Subcommand)]
pub(crate) enum Import {
    /// Parts, as `export parts` writes them.
    Parts {
        /// CSV, or JSON by its ending; `-` for CSV on standard input.
        file: PathBuf,
        /// The data file.
        #[arg(long, default_value = "motilis.db")]
        data: PathBuf,
    },
}

pub(crate) fn export(what: Export) -> Result<()> {
    match what {
        Export::Sheet {
            rig,
            pdf,
            paper,
            data,
            output,
        } => {
            let Some(paper) = Paper::from_key(&paper) else {
                bail!("there is no paper {paper:?}; sheets are printed on a4 and letter");
            };
            let board = board(&open(&data)?, &rig)?;
            let svg = Sheet::of_board(&board, paper).alone().render()?;
            let bytes = if pdf {
                motilis_print::pdf(&svg)?
            } else {
                svg.into_bytes()
            };
            put(output.as_deref(), &bytes)
        }
        Export::Log(table) => table.put(|log, format| write_log(&log.entries(), format)),
        Export::Fish(table) => table.put(|log, format| write_fish(&log.entries(), format)),
        Export::Passes(table) => table.put(|log, format| write_passes(&log.passes(), format)),
        Export::Parts { json, data, output } => {
            let all = open(&data)?.read(parts::all)?;
            let format = if json { Format::Json } else { Format::Csv };
            put(output.as_deref(), write(&all, format).as_bytes())
        }
    }
}

impl Table {
    fn put(&self, write: impl Fn(&WholeLog, Format) -> String) -> Result<()> {
        let log = open(&self.data)?.read(WholeLog::load)?;
        let format = if self.json { Format::Json } else { Format::Csv };
        put(self.output.as_deref(), write(&log, format).as_bytes())
    }
}

pub(crate) fn import(what: Import) -> Result<()> {
    let Import::Parts { file, data } = what;
    let mut bytes = Vec::new();
    if file.as_os_str() == "-" {
        std::io::stdin()
            .read_to_end(&mut bytes)
            .context("standard input cannot be read")?;
    } else {
        bytes =
            std::fs::read(&file).with_context(|| format!("{} cannot be read", file.display()))?;
    }
    let is_json = file
        .extension()
        .is_some_and(|end| end.eq_ignore_ascii_case("json"));
    let reading = read(&bytes, if is_json { Format::Json } else { Format::Csv })
        .with_context(|| format!("{} is not imported", file.display()))?;
    let Some(sound) = reading.sound() else {
        for record in &reading.records {
            for problem in record.part.as_ref().err().into_iter().flatten() {
                eprintln!(
                    "line {}: {}: {}",
                    record.line, problem.field, problem.message
                );
            }
        }
        bail!(
            "{} is not imported; correct the lines above",
            file.display()
        );
    };
    let count = sound.len();
    open(&data)?.write(|connection| {
        sound
            .iter()
            .try_for_each(|(id, boxed)| parts::import(connection, *id, boxed))
    })?;
    println!("{count} parts are in the box");
    Ok(())
}

/// An existing data file: nothing is exported out of one that is only just made.
fn open(path: &Path) -> Result<Store> {
    if !path.exists() {
        bail!(
            "there is no data file {}; name one with --data",
            path.display()
        );
    }
    Ok(Store::open(path)?)
}

/// The rig of a number or a name.
fn board(store: &Store, rig: &str) -> Result<Board> {
    let boards = store.read(rigs::boards)?;
    let names: Vec<String> = boards.iter().map(|(_, board)| board.name.clone()).collect();
    boards
        .into_iter()
        .find(|(id, board)| board.name == rig || id.0.to_string() == rig)
        .map(|(_, board)| board)
        .with_context(|| format!("there is no rig {rig:?}; there are {}", names.join(", ")))
}

fn put(output: Option<&Path>, bytes: &[u8]) -> Result<()> {
    match output {
        Some(path) => std::fs::write(path, bytes)
            .with_context(|| format!("{} cannot be written", path.display())),
        None => std::io::stdout()
            .write_all(bytes)
            .context("standard output cannot be written"),
    }
}
