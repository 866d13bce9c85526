//! `motilis backup`, `restore`, `check`, `tidy` and `pass-phrase`: the data file and its keys, without the web.

use anyhow::{Context, Result, bail};
use clap::Args;
use jiff::Timestamp;
use motilis_store::copies::{Copies, Why};
use motilis_store::{Opening, check, copies, restore, tidy};
use motilis_view::Role;
use motilis_view::words::data as say;
use motilis_web::Access;
use std::io::{BufRead, IsTerminal};
use std::path::PathBuf;

/// Which data file, and where its copies lie.
#[derive(Debug, Args)]
pub(crate) struct File {
    /// The data file.
    #[arg(long, default_value = "motilis.db", env = "MOTILIS_DATA")]
    pub data: PathBuf,
    /// The folder of its copies; beside it, NAME.copies, when not given.
    #[arg(long, value_name = "FOLDER", env = "MOTILIS_COPIES")]
    pub copies: Option<PathBuf>,
}

impl File {
    fn copies(&self) -> Copies {
        Copies::of(&self.data, self.copies.clone())
    }

    fn open(&self, who: &str) -> Result<motilis_store::Store> {
        if !self.data.exists() {
            bail!(
                "there is no data file {}; name one with --data",
                self.data.display()
            );
        }
        let opening = Opening {
            copies: self.copies.clone(),
            who: who.to_owned(),
            ..Opening::default()
        };
        Ok(opening.open(&self.data)?)
    }
}

/// `motilis backup`
#[derive(Debug, Args)]
pub(crate) struct Backup {
    #[command(flatten)]
    file: File,
    /// The file to make; one in the folder of copies when not given.
    #[arg(long, value_name = "FILE")]
    to: Option<PathBuf>,
}

/// `motilis restore`
#[derive(Debug, Args)]
pub(crate) struct Restore {
    /// The copy; the newest in the folder of copies when not given.
    copy: Option<PathBuf>,
    #[command(flatten)]
    file: File,
}

/// `motilis check`
#[derive(Debug, Args)]
pub(crate) struct Check {
    #[command(flatten)]
    file: File,
    /// Mend what can be mended, after a copy of the file.
    #[arg(long)]
    mend: bool,
}

/// `motilis tidy`
#[derive(Debug, Args)]
pub(crate) struct Tidy {
    #[command(flatten)]
    file: File,
    /// Do it; without it only what would be done is said.
    #[arg(long)]
    yes: bool,
}

/// `motilis pass-phrase`
#[derive(Debug, Args)]
pub(crate) struct PassPhrase {
    /// The data file that it opens.
    #[arg(long, default_value = "motilis.db", env = "MOTILIS_DATA")]
    data: PathBuf,
    /// The crew's, for Boat and Log; the captain's when not given.
    #[arg(long)]
    crew: bool,
}

/// Copies the file, also while a program serves it.
pub(crate) fn backup(asked: &Backup) -> Result<()> {
    let to = if let Some(to) = &asked.to {
        copies::copy_file(&asked.file.data, to)?
    } else {
        let name = asked
            .file
            .copies()
            .named_now(Timestamp::now(), &Why::Asked)?;
        copies::copy_file(&asked.file.data, &name)?
    };
    let bytes = std::fs::metadata(&to).map_or(0, |meta| meta.len());
    say!("{} is a whole copy, {}", to.display(), say::size(bytes));
    Ok(())
}

/// Puts a copy in the file's place, and keeps what it replaces.
pub(crate) fn restore(asked: &Restore) -> Result<()> {
    let copies = asked.file.copies();
    let copy = match &asked.copy {
        Some(copy) => copy.clone(),
        None => match copies.all().into_iter().next() {
            Some(copy) => copy.path,
            None => bail!(
                "there is no copy in {}; name one",
                copies.folder().display()
            ),
        },
    };
    let restored = restore::restore(&copy, &asked.file.data, &copies)?;
    say!("{} is as {} was", asked.file.data.display(), copy.display());
    if let Some(replaced) = restored.replaced {
        say!("what it replaced is kept as {}", replaced.display());
    }
    Ok(())
}

/// Looks a file through.
pub(crate) fn check(asked: &Check) -> Result<()> {
    if asked.mend {
        let store = asked.file.open("motilis check")?;
        say!("{}", say::mended(&check::mend(&store, Timestamp::now())?.0));
    }
    let found = check::of_file(&asked.file.data)?;
    for one in &found {
        say!("{}: {}", say::wrong(one), say::mend(one));
    }
    if found.is_empty() {
        say!(
            "{}: nothing is wrong; it fits together, what its records name is there, every record can be read",
            asked.file.data.display()
        );
        return Ok(());
    }
    let hint = if asked.mend {
        ""
    } else {
        "; --mend mends what can be mended"
    };
    bail!(
        "{} is not as it should be ({} found){hint}",
        asked.file.data.display(),
        found.len()
    )
}

/// Clears out what nobody needs.
pub(crate) fn tidy(asked: &Tidy) -> Result<()> {
    let store = asked.file.open("motilis tidy")?;
    let now = Timestamp::now();
    if asked.yes {
        say!("{}", say::tidying(&tidy::tidy(&store, now)?.0, true));
    } else {
        say!(
            "{} Say --yes to do it.",
            say::tidying(&tidy::preview(&store, now)?, false)
        );
    }
    Ok(())
}

/// Sets a pass phrase: typed twice at a terminal, or a line on standard input.
pub(crate) fn pass_phrase(asked: &PassPhrase) -> Result<()> {
    let role = if asked.crew {
        Role::Crew
    } else {
        Role::Captain
    };
    let access = Access::of(asked.data.with_extension("access.json"))
        .context("what is kept of pass phrases cannot be read")?;
    ask_phrase(&access, role)?;
    say!("The {}’s pass phrase is set.", role.key());
    Ok(())
}

/// Asks for a pass phrase until it is a sound one.
pub(crate) fn ask_phrase(access: &Access, role: Role) -> Result<()> {
    if !std::io::stdin().is_terminal() {
        let mut line = String::new();
        std::io::stdin()
            .lock()
            .read_line(&mut line)
            .context("no pass phrase came")?;
        let phrase = line.trim_end_matches(['\r', '\n']);
        return Ok(access.set_phrase(role, phrase)??);
    }
    loop {
        let ask =
            |prompt: String| rpassword::prompt_password(prompt).context("no pass phrase came");
        let phrase = ask(format!(
            "New pass phrase of the {} ({} characters or more): ",
            role.key(),
            motilis_web::SHORTEST
        ))?;
        if phrase != ask("Once more: ".to_owned())? {
            say!("They are not the same.");
            continue;
        }
        match access.set_phrase(role, &phrase)? {
            Ok(()) => return Ok(()),
            Err(refused) => say!("{refused}"),
        }
    }
}
