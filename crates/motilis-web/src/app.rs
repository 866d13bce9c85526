use crate::device::Borne;
use crate::runs::Runs;
use crate::upkeep::{self, Upkept};
use crate::{Access, Error, keeper};
use actix_web::web;
use jiff::Timestamp;
use motilis_helm::{Act, ActId, Book, Done, Seal, Undone, carry_out, done_before, take_back};
use motilis_live::{Clock, Live};
use motilis_store::unread::{self, Unread};
use motilis_store::{Connection, READERS, Standing, Store, settings};
use motilis_view::FileSaid;
use motilis_view::present::Beside;
use motilis_view::units::System;
use std::path::{Path, PathBuf};
use std::sync::atomic::{AtomicU64, Ordering};
use std::sync::{Arc, Mutex, MutexGuard, OnceLock, PoisonError};
use std::thread::Thread;
use tokio::sync::{OwnedSemaphorePermit, Semaphore};

/// How many look on by a stream at once.
const STREAMS: usize = 48;

/// What all handlers share.
#[derive(Clone)]
pub struct App {
    store: Store,
    live: Live,
    beside: Arc<Mutex<Arc<Beside>>>,
    /// How often something was written.
    version: Arc<AtomicU64>,
    keeper: Arc<OnceLock<Thread>>,
    /// Held by whoever serves: the keeper ends with the last.
    serving: Option<Arc<()>>,
    rides: Arc<PathBuf>,
    addresses: Arc<OnceLock<Vec<String>>>,
    runs: Arc<Runs>,
    usual_units: System,
    unread: Arc<Mutex<Arc<Vec<Unread>>>>,
    /// Which book the file holds.
    book: Arc<AtomicU64>,
    access: Access,
    upkeep: Arc<Mutex<Upkept>>,
    /// Held by who works on the data file as a whole.
    turn: Arc<Mutex<()>>,
    /// Who looks on by a stream now.
    streams: Arc<()>,
    /// Those who ask wait for each other in the order they came, and those who write among themselves: a crowd that looks does not
    /// hold up a tap, and takes no more threads and memory than a few.
    askers: Arc<Semaphore>,
    writers: Arc<Semaphore>,
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
        let book: Result<u64, Error> = store.read(|connection| Ok(settings::book(connection)?));
        let unread: Vec<Unread> = store.read(unread::all).unwrap_or_default();
        for record in &unread {
            tracing::warn!(what = record.what, id = record.id, why = %record.why, "cannot be read");
        }
        Self {
            store,
            live: Live::start(Clock::new(clock)),
            beside: Arc::default(),
            version: Arc::default(),
            keeper: Arc::default(),
            serving: None,
            rides: Arc::new(std::env::temp_dir()),
            addresses: Arc::default(),
            runs: Arc::default(),
            usual_units: usual_units.unwrap_or_default(),
            unread: Arc::new(Mutex::new(Arc::new(unread))),
            book: Arc::new(AtomicU64::new(book.unwrap_or_default())),
            access: Access::open(),
            upkeep: Arc::default(),
            turn: Arc::default(),
            streams: Arc::default(),
            askers: Arc::new(Semaphore::new(READERS as usize)),
            writers: Arc::new(Semaphore::new(1)),
        }
    }

    /// The same application with a boat under way: from now on it listens to the instruments that are set, and keeps
    /// recordings in a folder.
    #[must_use]
    pub fn under_way(mut self, rides: PathBuf) -> Self {
        self.rides = Arc::new(rides);
        let serving = Arc::new(());
        upkeep::start(&self, Arc::downgrade(&serving));
        let handle = keeper::start(&self, Arc::downgrade(&serving));
        self.serving = Some(serving);
        // Set once: nobody else has this application yet.
        let _ = self.keeper.set(handle.thread().clone());
        self
    }

    /// The same application, that asks who comes aboard.
    #[must_use]
    pub fn asking(self, access: Access) -> Self {
        Self { access, ..self }
    }

    /// Who may come aboard.
    pub(crate) fn access(&self) -> &Access {
        &self.access
    }

    /// What was looked at of the data file, and what became of it.
    pub(crate) fn upkept(&self) -> MutexGuard<'_, Upkept> {
        self.upkeep.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// A place among those who look on by a stream, until it is let go of; none when it is too many.
    pub(crate) fn stream(&self) -> Option<Arc<()>> {
        (Arc::strong_count(&self.streams) <= STREAMS).then(|| self.streams.clone())
    }

    /// What is said of the data file on every page.
    pub(crate) fn file_said(&self) -> FileSaid {
        FileSaid {
            unread: self.unread().len(),
            read_only: *self.store.standing() == Standing::ReadOnly,
            rescued: matches!(self.store.standing(), Standing::Rescued(_)),
            book: self.book.load(Ordering::Relaxed),
        }
    }

    /// The boat under way.
    pub(crate) fn live(&self) -> &Live {
        &self.live
    }

    /// The data file.
    pub(crate) fn store(&self) -> &Store {
        &self.store
    }

    /// How often something was written.
    pub(crate) fn version(&self) -> u64 {
        self.version.load(Ordering::Acquire)
    }

    /// Where recordings of the instruments lie.
    pub(crate) fn rides(&self) -> &Path {
        &self.rides
    }

    /// What is known of the boat beside its instruments.
    pub(crate) fn beside(&self) -> Arc<Beside> {
        keeper::of(&self.beside)
    }

    pub(crate) fn set_beside(&self, beside: Beside) {
        *self.beside.lock().unwrap_or_else(PoisonError::into_inner) = Arc::new(beside);
    }

    /// Addresses at which others can open it, once it is bound.
    pub fn reached_at(&self, addresses: Vec<String>) {
        let _ = self.addresses.set(addresses);
    }

    /// The same, as they were told.
    pub(crate) fn addresses(&self) -> &[String] {
        self.addresses.get().map_or(&[], Vec::as_slice)
    }

    /// Whatever is done next is done by this machine's own clock, not by that of a practice trip.
    pub(crate) fn leave_practice(&self) {
        if self.beside().practice {
            self.live.clock().go(1.0);
        }
    }

    /// Something was written: the keeper looks at once.
    fn wrote(&self) {
        self.version.fetch_add(1, Ordering::AcqRel);
        if let Some(keeper) = self.keeper.get() {
            keeper.unpark();
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

    /// Records that this version could not read when it opened the file, or after what was last done to the whole of it.
    pub(crate) fn unread(&self) -> Arc<Vec<Unread>> {
        keeper::of(&self.unread)
    }

    /// The time of now.
    pub fn now(&self) -> Timestamp {
        self.live.clock().now()
    }

    /// The seal of an act: when it was asked for, by a clock that may go faster than life.
    pub(crate) fn seal(&self, borne: &Borne) -> Seal {
        borne.seal(self.now(), self.live.clock().pace())
    }

    async fn read<T: Send + 'static>(
        &self,
        read: impl FnOnce(&Connection) -> Result<T, Error> + Send + 'static,
    ) -> Result<T, Error> {
        let store = self.store.clone();
        let turn = turn(&self.askers).await?;
        let answer = web::block(move || {
            let _turn = turn;
            store.read(read)
        });
        answer.await.map_err(|_| Error::Stopped)?
    }

    async fn write<T: Send + 'static>(
        &self,
        write: impl FnOnce(&Connection) -> Result<T, Error> + Send + 'static,
    ) -> Result<T, Error> {
        let store = self.store.clone();
        let turn = turn(&self.writers).await?;
        let written = web::block(move || {
            let _turn = turn;
            store.write(write)
        });
        let written = written.await.map_err(|_| Error::Stopped)?;
        if written.is_ok() {
            self.wrote();
        }
        written
    }

    /// Does work on the data file as a whole, off the threads that answer requests: one work at a time, and what one page asks for
    /// once. Where it goes on afterwards is answered.
    ///
    /// # Errors
    /// What the work returns.
    pub(crate) async fn work(
        &self,
        borne: &Borne,
        work: impl FnOnce(&Store, &mut Upkept) -> Result<String, Error> + Send + 'static,
    ) -> Result<String, Error> {
        let (store, upkeep) = (self.store.clone(), self.upkeep.clone());
        let (turn, seal) = (self.turn.clone(), self.seal(borne));
        let (known, book) = (self.unread.clone(), self.book.clone());
        let done = web::block(move || {
            let _turn = turn.lock().unwrap_or_else(PoisonError::into_inner);
            let asked = (seal.id, seal.asked);
            let mut upkept = {
                let upkept = upkeep.lock().unwrap_or_else(PoisonError::into_inner);
                match &upkept.last {
                    Some((last, address)) if *last == asked => return Ok(address.clone()),
                    _ => upkept.clone(),
                }
            };
            let address = work(&store, &mut upkept)?;
            let found = Arc::new(store.read(unread::all)?);
            book.store(store.read(settings::book)?, Ordering::Relaxed);
            *known.lock().unwrap_or_else(PoisonError::into_inner) = found;
            upkept.last = Some((asked, address.clone()));
            *upkeep.lock().unwrap_or_else(PoisonError::into_inner) = upkept;
            Ok(address)
        })
        .await
        .map_err(|_| Error::Stopped)?;
        self.wrote();
        done
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
        let seal = self.seal(borne);
        let moment = self.live.moment(seal.at);
        let store = self.store.clone();
        self.write(move |connection| {
            let book = Book::new(connection).at(moment);
            if let Some(done) = done_before(&book, &seal)? {
                return Ok(Outcome::Done(done));
            }
            match read(&book)? {
                Reading::Act(act) => {
                    if act.reads_in() {
                        // Another connection: it sees the file as it is before.
                        let why = motilis_store::copies::Why::Import;
                        store.read(|before| store.copies().keep(before, Timestamp::now(), why))?;
                    }
                    Ok(Outcome::Done(carry_out(&book, &seal, act)?))
                }
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
        let seal = self.seal(borne);
        self.write(move |connection| Ok(take_back(&Book::new(connection), &seal, act)?))
            .await
    }

    /// Remembers which record was opened last; the next visit begins there.
    ///
    /// # Errors
    /// [`Error::Store`].
    pub(crate) async fn remember(&self, what: &'static str, id: i64) -> Result<(), Error> {
        if *self.store.standing() != Standing::Whole {
            return Ok(());
        }
        let known = self.read(move |connection| Ok(settings::get(connection, what)?));
        if known.await? == Some(id.to_string()) {
            return Ok(());
        }
        self.write(move |connection| Ok(settings::set(connection, what, &id.to_string())?))
            .await
    }
}

/// One's turn, kept until the thread that does the work lets go of it: also when whoever asked has left.
async fn turn(of: &Arc<Semaphore>) -> Result<OwnedSemaphorePermit, Error> {
    let turn = of.clone().acquire_owned().await;
    turn.map_err(|_| Error::Stopped)
}
