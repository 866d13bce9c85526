use anyhow::{Context, Result, bail};
use askama::Template;
use clap::{Args, Subcommand};
use jiff::Timestamp;
use motilis_core::book::{Board, OutingId};
use motilis_core::track::Track;
use motilis_formats::{
    Format, read, read_gpx, read_log, write, write_casts, write_entries, write_fish, write_log,
    write_passes, write_track,
};
use motilis_helm::{
    Act, Book, Done, Fate, LogAct, LogImport, Seal, TrackLook, WholeLog, carry_out,
};
use motilis_store::{Store, archive, parts, rigs};
use motilis_view::draw::{Paper, Sheet};
use motilis_view::present::gpx as gpx_of;
use motilis_view::units::System;
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
    /// Every entry of the log as CSV, figures in SI; as JSON all of it: outings, passes and entries.
    Log(Table),
    /// Every pass: which rod had what in the water, where and how, from when to when.
    Passes(Table),
    /// Every cast in a river: from where, how, and what bit.
    Casts(Table),
    /// Every fish.
    Fish(Table),
    /// The track of an outing: points with time, speed and course.
    Track {
        /// Number of the outing; the one last opened when not given.
        #[arg(long)]
        outing: Option<i64>,
        /// As GPX 1.1, with the outing's entries and the water's spots as waypoints.
        #[arg(long, conflicts_with = "json")]
        gpx: bool,
        #[command(flatten)]
        table: Table,
    },
    /// The whole book as one JSON document.
    Book {
        /// The data file.
        #[arg(long, default_value = "motilis.db")]
        data: PathBuf,
        /// Where to write it; standard output when not given.
        #[arg(long, short)]
        output: Option<PathBuf>,
    },
    /// Every part of the box.
    Parts(Table),
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
    Parts(Incoming),
    /// The log, as `export log` and `export passes` write it: all of it, or nothing with each bad line named.
    Log {
        #[command(flatten)]
        incoming: Incoming,
        /// Only says what would happen.
        #[arg(long)]
        preview: bool,
    },
    /// A GPX track, to the outing that it was recorded on.
    Track(Incoming),
    /// A whole book, as `export book` writes it, into a new data file.
    Book(Incoming),
}

/// A file that comes in.
#[derive(Debug, Args)]
pub(crate) struct Incoming {
    /// CSV, or JSON by its ending; `-` for standard input.
    file: PathBuf,
    /// The data file.
    #[arg(long, default_value = "motilis.db")]
    data: PathBuf,
}

impl Incoming {
    fn bytes(&self) -> Result<Vec<u8>> {
        let mut bytes = Vec::new();
        if self.file.as_os_str() == "-" {
            std::io::stdin()
                .read_to_end(&mut bytes)
                .context("standard input cannot be read")?;
        } else {
            bytes = std::fs::read(&self.file)
                .with_context(|| format!("{} cannot be read", self.file.display()))?;
        }
        Ok(bytes)
    }

    fn format(&self) -> Format {
        let end = self.file.extension();
        if end.is_some_and(|end| end.eq_ignore_ascii_case("json")) {
            Format::Json
        } else {
            Format::Csv
        }
    }

    fn refused(&self) -> String {
        format!("{} is not imported", self.file.display())
    }
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
        Export::Log(table) => table.put(|log, format| match format {
            Format::Csv => write_entries(&log.entries()),
            Format::Json => write_log(&log.outings(), &log.passes(), &log.entries()),
        }),
        Export::Fish(table) => table.put(|log, format| write_fish(&log.entries(), format)),
        Export::Casts(table) => table.put(|log, format| write_casts(&log.casts(), format)),
        Export::Passes(table) => table.put(|log, format| write_passes(&log.passes(), format)),
        Export::Track { outing, gpx, table } => {
            let track = open(&table.data)?.read(|connection| {
                let book = Book::new(connection);
                TrackLook::of(&book, outing.map(OutingId))
            })?;
            let text = if gpx {
                gpx_of(&track, System::default())
            } else {
                let recorded = track.track.as_ref().map(|(_, track)| track);
                let recorded = recorded.context("that outing has no track")?;
                write_track(recorded, table.format())
            };
            put(table.output.as_deref(), text.as_bytes())
        }
        Export::Book { data, output } => {
            let book = open(&data)?.read(archive::write)?;
            put(output.as_deref(), book.as_bytes())
        }
        Export::Parts(table) => {
            let all = open(&table.data)?.read(parts::all)?;
            put(
                table.output.as_deref(),
                write(&all, table.format()).as_bytes(),
            )
        }
    }
}

impl Table {
    fn put(&self, write: impl Fn(&WholeLog, Format) -> String) -> Result<()> {
        let log = open(&self.data)?.read(WholeLog::load)?;
        put(
            self.output.as_deref(),
            write(&log, self.format()).as_bytes(),
        )
    }

    fn format(&self) -> Format {
        if self.json { Format::Json } else { Format::Csv }
    }
}

pub(crate) fn import(what: Import) -> Result<()> {
    match what {
        Import::Parts(incoming) => import_parts(&incoming),
        Import::Log { incoming, preview } => import_log(&incoming, preview),
        Import::Track(incoming) => import_track(&incoming),
        Import::Book(incoming) => {
            let bytes = incoming.bytes()?;
            let text = std::str::from_utf8(&bytes).with_context(|| incoming.refused())?;
            let came = archive::read(text, &incoming.data).with_context(|| incoming.refused())?;
            say!("{} rows are in {}", came.rows, incoming.data.display());
            if came.unread > 0 {
                say!(
                    "{} records cannot be read by this version; they are kept",
                    came.unread
                );
            }
            Ok(())
        }
    }
}

fn import_parts(incoming: &Incoming) -> Result<()> {
    let reading =
        read(&incoming.bytes()?, incoming.format()).with_context(|| incoming.refused())?;
    let Some(sound) = reading.sound() else {
        for record in &reading.records {
            for problem in record.part.as_ref().err().into_iter().flatten() {
                eprintln!(
                    "line {}: {}: {}",
                    record.line, problem.field, problem.message
                );
            }
        }
        bail!("{}; correct the lines above", incoming.refused());
    };
    let count = sound.len();
    let store = open(&incoming.data)?;
    keep_copy(&store)?;
    store.write(|connection| {
        sound
            .iter()
            .try_for_each(|(id, boxed)| parts::import(connection, *id, boxed))
    })?;
    say!("{count} parts are in the box");
    Ok(())
}

fn import_log(incoming: &Incoming, preview: bool) -> Result<()> {
    let reading =
        read_log(&incoming.bytes()?, incoming.format()).with_context(|| incoming.refused())?;
    let store = open(&incoming.data)?;
    let import = store.read(|connection| LogImport::of(connection, reading))?;
    for coming in &import.records {
        for (field, message) in &coming.problems {
            eprintln!("{} {}: {field}: {message}", coming.what, coming.line);
        }
    }
    let [new, changed, same, wrong] =
        [Fate::New, Fate::Changed, Fate::Same, Fate::Wrong].map(|fate| import.count(fate));
    say!("{new} new, {changed} changed, {same} the same, {wrong} wrong");
    if wrong > 0 {
        bail!("{}; correct the lines above", incoming.refused());
    }
    if !preview && import.is_sound() {
        keep_copy(&store)?;
        act(&store, Act::Log(LogAct::Import(Box::new(import))))?;
    }
    Ok(())
}

fn import_track(incoming: &Incoming) -> Result<()> {
    let recorded = read_gpx(&incoming.bytes()?).with_context(|| incoming.refused())?;
    let track = Track::new(recorded.name, recorded.points).with_context(|| incoming.refused())?;
    let store = open(&incoming.data)?;
    keep_copy(&store)?;
    let (points, length) = (track.points().len(), track.length().0 / 1_000.0);
    act(&store, Act::Log(LogAct::Track(Box::new(track), None)))
        .with_context(|| incoming.refused())?;
    say!("a track of {points} points and {length:.1} km is in the log");
    Ok(())
}

/// Does an act as a page would: it can be undone there.
fn act(store: &Store, act: Act) -> Result<Done> {
    let now = Timestamp::now();
    let seal = Seal {
        id: format!("command-{}-{now}", std::process::id()),
        asked: String::new(),
        at: now,
        now,
    };
    Ok(store.write(|connection| carry_out(&Book::new(connection), &seal, act))?)
}

/// The file as it is, before something is read into it.
fn keep_copy(store: &Store) -> Result<()> {
    let why = motilis_store::copies::Why::Import;
    store.read(|connection| store.copies().keep(connection, Timestamp::now(), why))?;
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
