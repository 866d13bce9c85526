use super::SessionSeen;
use jiff::Timestamp;
use motilis_view::Role;
use serde::{Deserialize, Serialize};
use std::fs::{self, OpenOptions};
use std::io::{self, Write};
use std::path::Path;

/// What the file keeps.
#[derive(Debug, Clone, Default, Serialize, Deserialize)]
#[serde(default, deny_unknown_fields)]
pub(super) struct Kept {
    captain: Option<String>,
    crew: Option<String>,
    pub guest: Option<String>,
    pub sessions: Vec<Session>,
}

/// A session: of its token only what cannot be turned back.
#[derive(Debug, Clone, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct Session {
    pub id: u64,
    pub token: String,
    pub role: String,
    pub device: String,
    pub since_utc_s: i64,
    pub seen_utc_s: i64,
    pub ends_utc_s: i64,
}

impl Session {
    /// What it may do; less than crew for a role that is not known here.
    pub fn role(&self) -> Role {
        Role::from_key(&self.role).unwrap_or(Role::Guest)
    }

    pub fn is_over(&self, now: Timestamp) -> bool {
        now.as_second() >= self.ends_utc_s
    }

    pub fn told(&self) -> SessionSeen {
        let at = |second| Timestamp::from_second(second).unwrap_or(Timestamp::UNIX_EPOCH);
        SessionSeen {
            id: self.id,
            role: self.role(),
            device: self.device.clone(),
            since: at(self.since_utc_s),
            seen: at(self.seen_utc_s),
        }
    }
}

impl Kept {
    /// What a file keeps; nothing where there is none.
    pub fn read(file: &Path) -> io::Result<Self> {
        match fs::read_to_string(file) {
            Ok(text) => serde_json::from_str(&text).map_err(io::Error::other),
            Err(error) if error.kind() == io::ErrorKind::NotFound => Ok(Self::default()),
            Err(error) => Err(error),
        }
    }

    /// Writes it whole or not at all, for nobody else to read.
    pub fn write(&self, file: &Path) -> io::Result<()> {
        let part = file.with_extension("json.part");
        let mut open = OpenOptions::new();
        open.write(true).create(true).truncate(true);
        #[cfg(unix)]
        std::os::unix::fs::OpenOptionsExt::mode(&mut open, 0o600);
        let mut written = open.open(&part)?;
        written.write_all(&serde_json::to_vec_pretty(self)?)?;
        written.sync_all()?;
        fs::rename(&part, file)
    }

    pub fn phrase(&self, role: Role) -> Option<&str> {
        match role {
            Role::Captain => self.captain.as_deref(),
            Role::Crew => self.crew.as_deref(),
            Role::Guest => None,
        }
    }

    pub fn set_phrase(&mut self, role: Role, hash: Option<String>) {
        match role {
            Role::Captain => self.captain = hash,
            Role::Crew => self.crew = hash,
            Role::Guest => {}
        }
    }
}
