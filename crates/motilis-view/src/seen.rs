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
    /// How many records of the data file this version cannot read.
    pub unread: usize,
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
