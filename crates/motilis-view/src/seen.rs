use crate::screens::Theme;
use crate::units::System;
use std::ops::Deref;

/// Who looks: a device with its own theme and units.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Device {
    /// Day or night.
    pub theme: Theme,
    /// Its units; they travel with every form.
    pub system: System,
    /// Number of the page that is made for it: every form of the page bears it.
    pub page: u64,
    /// What is to be said of the data file on every page.
    pub file: FileSaid,
    /// What whoever looks may do.
    pub role: Role,
}

/// What is said of the data file on every page.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct FileSaid {
    /// How many of its records this version cannot read.
    pub unread: usize,
    /// Whether it can only be read.
    pub read_only: bool,
    /// Whether it is what could be read of a damaged one.
    pub rescued: bool,
    /// Which book is in it: another number after each copy that took the place of one.
    pub book: u64,
}

/// What somebody aboard may do.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub enum Role {
    /// Everything.
    #[default]
    Captain,
    /// Boat, Log and looks.
    Crew,
    /// Looks.
    Guest,
}

impl Role {
    /// The name it is kept under.
    pub fn key(self) -> &'static str {
        match self {
            Self::Captain => "captain",
            Self::Crew => "crew",
            Self::Guest => "guest",
        }
    }

    /// The role of a name.
    pub fn from_key(key: &str) -> Option<Self> {
        let all = [Self::Captain, Self::Crew, Self::Guest];
        all.into_iter().find(|role| role.key() == key)
    }
}

/// An answer as a device sees it.
#[derive(Debug)]
pub struct Seen<T> {
    /// The answer.
    pub answer: T,
    /// Who looks at it.
    pub device: Device,
}

impl<T> Seen<T> {
    /// An answer for a device.
    pub fn new(answer: T, device: Device) -> Self {
        Self { answer, device }
    }
}

impl<T> Deref for Seen<T> {
    type Target = T;

    fn deref(&self) -> &T {
        &self.answer
    }
}
