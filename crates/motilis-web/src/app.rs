use crate::Error;
use crate::device::Borne;
use crate::runs::Runs;
use actix_web::web;
use jiff::Timestamp;
use motilis_helm::{Act, ActId, Book, Done, Undone, carry_out, done_before, take_back};
use motilis_store::unread::{self, Unread};
use motilis_store::{Connection, Store, settings};
use motilis_view::units::System;
use std::sync::Arc;

/// What all handlers share.
#[derive(Clone)]
pub struct App {
    store: Store,
    clock: fn() -> Timestamp,
    runs: Arc<Runs>,
    usual_units: System,
    unread: Arc<Vec<Unread>>,
}

/// What a form is read as.
pub(crate) enum Reading<P> {
    /// Something to do.
    Act(Act),
    /// The page with what is wrong.
    Page(P),
}

/// What came of it.
pub(crate) enum Outcome<P> {
    /// It is done, now or when it was asked for before.
    Done(Done),
    /// The page with what is wrong; nothing was changed.
    Page(P),
}

impl App {
    /// An application on a data file.
    pub fn new(store: Store) -> Self {
        Self::with_clock(store, Timestamp::now)
    }

    /// An application whose clock says something else.
    pub fn with_clock(store: Store, clock: fn() -> Timestamp) -> Self {
        // A file that cannot be read now says so at the first page.
        let key = store.read(|connection| settings::get(connection, "units"));
        let usual_units = key.ok().flatten().map(|key| System::from_key(&key));
        let unread: Vec<Unread> = store.read(unread::all).unwrap_or_default();
        for record in &unread {
            tracing::warn!(what = record.what, id = record.id, why = %record.why, "cannot be read");
        }
        Self {
            store,
            clock,
            runs: Arc::default(),
            usual_units: usual_units.unwrap_or_default(),
            unread: Arc::new(unread),
        }
    }

    /// The spreads that are being towed.
    pub(crate) fn runs(&self) -> &Runs {
        &self.runs
    }

    /// Units of a device that has chosen none.
    pub(crate) fn usual_units(&self) -> System {
        self.usual_units
    }

    /// Records that this version could not read when it opened the file.
    pub(crate) fn unread(&self) -> &[Unread] {
        &self.unread
    }

    /// The time of now.
    pub fn now(&self) -> Timestamp {
        (self.clock)()
    }

    async fn read<T: Send + 'static>(
        &self,
        read: impl FnOnce(&Connection) -> Result<T, Error> + Send + 'static,
    ) -> Result<T, Error> {
        let store = self.store.clone();
        web::block(move || store.read(read))
            .await
            .map_err(|_| Error::Stopped)?
    }

    async fn write<T: Send + 'static>(
        &self,
        write: impl FnOnce(&Connection) -> Result<T, Error> + Send + 'static,
    ) -> Result<T, Error> {
        let store = self.store.clone();
        web::block(move || store.write(write))
            .await
            .map_err(|_| Error::Stopped)?
    }

    /// Answers a question out of one moment of the data file, off the threads that answer requests.
    ///
    /// # Errors
    /// What `question` returns.
    pub(crate) async fn ask<T: Send + 'static>(
        &self,
        question: impl FnOnce(&Book<'_>) -> Result<T, Error> + Send + 'static,
    ) -> Result<T, Error> {
        self.read(|connection| question(&Book::new(connection)))
            .await
    }

    /// Reads a form against the data file and does what it asks for, in one transaction: once, however often it is
    /// asked for.
    ///
    /// # Errors
    /// What `read` returns, or why the act was refused; nothing is changed then.
    pub(crate) async fn act<P: Send + 'static>(
        &self,
        borne: &Borne,
        read: impl FnOnce(&Book<'_>) -> Result<Reading<P>, Error> + Send + 'static,
    ) -> Result<Outcome<P>, Error> {
        let seal = borne.seal(self.now());
        self.write(move |connection| {
            let book = Book::new(connection);
            if let Some(done) = done_before(&book, &seal)? {
                return Ok(Outcome::Done(done));
            }
            match read(&book)? {
                Reading::Act(act) => Ok(Outcome::Done(carry_out(&book, &seal, act)?)),
                Reading::Page(page) => Ok(Outcome::Page(page)),
            }
        })
        .await
    }

    /// Does an act that needs no reading.
    ///
    /// # Errors
    /// Why it was refused.
    pub(crate) async fn do_act(&self, borne: &Borne, act: Act) -> Result<Done, Error> {
        let outcome = self
            .act(borne, move |_| Ok(Reading::<()>::Act(act)))
            .await?;
        match outcome {
            Outcome::Done(done) => Ok(done),
            Outcome::Page(()) => Err(Error::Stopped),
        }
    }

    /// Takes an act back by its trace.
    ///
    /// # Errors
    /// [`Error::Store`] when there never was one.
    pub(crate) async fn take_back(&self, borne: &Borne, act: ActId) -> Result<Undone, Error> {
        let seal = borne.seal(self.now());
        self.write(move |connection| Ok(take_back(&Book::new(connection), &seal, act)?))
            .await
    }

    /// Remembers which record was opened last; the next visit begins there.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub(crate) async fn remember(&self, what: &'static str, id: i64) -> Result<(), Error> {
        let known = self.read(move |connection| Ok(settings::get(connection, what)?));
        if known.await? == Some(id.to_string()) {
            return Ok(());
        }
        self.write(move |connection| Ok(settings::set(connection, what, &id.to_string())?))
            .await
    }
}
