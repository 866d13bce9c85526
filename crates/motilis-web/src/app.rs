use crate::Error;
use crate::screens::spread::Runs;
use actix_web::web;
use jiff::Timestamp;
use motilis_store::{Connection, Store};
use std::sync::Arc;

/// What all handlers share.
#[derive(Clone)]
pub struct App {
    store: Store,
    clock: fn() -> Timestamp,
    runs: Arc<Runs>,
}

impl App {
    /// An application on a data file.
    pub fn new(store: Store) -> Self {
        Self {
            store,
            clock: Timestamp::now,
            runs: Arc::default(),
        }
    }

    /// The spreads that are being towed.
    pub(crate) fn runs(&self) -> &Runs {
        &self.runs
    }

    /// The time of now, to the second as the data file keeps it.
    pub fn now(&self) -> Timestamp {
        Timestamp::from_second((self.clock)().as_second()).expect("now is a valid second")
    }

    /// Reads from the data file, off the threads that answer requests.
    ///
    /// # Errors
    /// What `read` returns.
    pub async fn read<T: Send + 'static>(
        &self,
        read: impl FnOnce(&Connection) -> Result<T, Error> + Send + 'static,
    ) -> Result<T, Error> {
        let store = self.store.clone();
        web::block(move || store.read(read))
            .await
            .map_err(|_| Error::Stopped)?
    }

    /// Writes to it: all or nothing, on disk when this returns.
    ///
    /// # Errors
    /// What `write` returns.
    pub async fn write<T: Send + 'static>(
        &self,
        write: impl FnOnce(&Connection) -> Result<T, Error> + Send + 'static,
    ) -> Result<T, Error> {
        let store = self.store.clone();
        web::block(move || store.write(write))
            .await
            .map_err(|_| Error::Stopped)?
    }
}
