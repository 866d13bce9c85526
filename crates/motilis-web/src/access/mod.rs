//! Who is aboard: pass phrases, sessions, the guest card, and what each role may do.
//!
//! Whoever sits at this machine is the captain. Beyond it a pass phrase is asked for, unless the program was told not to. What is kept
//! of it lies in a file of its own beside the data file, so that a copy of the book holds no key to the boat.

mod kept;
mod may;
mod tries;

pub(crate) use may::{is_for_all, may};

use argon2::Argon2;
use argon2::password_hash::phc::PasswordHash;
use argon2::password_hash::{PasswordHasher, PasswordVerifier};
use base64::Engine;
use base64::prelude::BASE64_URL_SAFE_NO_PAD;
use jiff::{SignedDuration, Timestamp};
use kept::{Kept, Session};
use motilis_view::Role;
use sha2::{Digest, Sha256};
use std::io;
use std::net::IpAddr;
use std::path::{Path, PathBuf};
use std::sync::atomic::{AtomicUsize, Ordering};
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};
use std::time::SystemTime;
use thiserror::Error;
use tries::Tries;

/// Shortest and longest pass phrase, characters (OWASP ASVS 4.0.3, 2.1.1 and 2.1.2).
pub const SHORTEST: usize = 12;
/// Longest.
pub const LONGEST: usize = 128;
/// Different characters it has at least.
const DIFFERENT: usize = 6;
/// A session lasts a season.
const SEASON_DAYS: i64 = 240;
/// A guest stays for a trip.
const TRIP_DAYS: i64 = 3;
/// Sessions that are kept; the one that was not seen for longest goes first.
const SESSIONS: usize = 64;
/// Tries that wait for their turn; each takes 19 MiB for its while.
const WAITING: usize = 8;

/// Why a pass phrase is not taken.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
pub enum PhraseRefused {
    /// It is too short.
    #[error(
        "a pass phrase has at least {SHORTEST} characters; four or five words are easy to remember"
    )]
    Short,
    /// It is too long.
    #[error("a pass phrase has at most {LONGEST} characters")]
    Long,
    /// It is soon guessed.
    #[error("that one is soon guessed; take four or five words that do not belong together")]
    Plain,
    /// The other role has it.
    #[error("captain and crew need different ones: it is by the phrase that they are told apart")]
    Same,
}

/// Why nobody was let in.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum NotIn {
    /// The phrase is nobody's.
    Wrong,
    /// Too many tries: wait so many seconds.
    Wait(u64),
}

/// Somebody who may come in.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct Aboard {
    /// What they may do.
    pub role: Role,
    /// Their session; none for whoever sits at this machine.
    pub session: Option<u64>,
}

/// A session as the captain sees it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct SessionSeen {
    /// Its number.
    pub id: u64,
    /// What it may do.
    pub role: Role,
    /// What the browser says it is.
    pub device: String,
    /// When it began.
    pub since: Timestamp,
    /// When it was last seen.
    pub seen: Timestamp,
}

/// Who may come aboard.
#[derive(Debug, Clone)]
pub struct Access {
    /// None where nobody is asked.
    asks: Option<Arc<Inner>>,
    /// Whether whoever sits at this machine is asked, too.
    everybody: bool,
}

/// When a file was written, its number on the disk, and its length.
type Stamp = (SystemTime, u64, u64);

#[derive(Debug)]
struct Inner {
    file: PathBuf,
    kept: Mutex<(Kept, Option<Stamp>)>,
    tries: Mutex<Tries>,
    hashing: Mutex<()>,
    waiting: AtomicUsize,
}

impl Access {
    /// Nobody is asked anything.
    pub fn open() -> Self {
        Self {
            asks: None,
            everybody: false,
        }
    }

    /// Asks whoever comes from beyond this machine, by what a file keeps; it is made with the first pass phrase.
    ///
    /// # Errors
    /// When the file is there and cannot be read.
    pub fn of(file: PathBuf) -> io::Result<Self> {
        let kept = Kept::read(&file)?;
        let stamp = stamp(&file);
        let inner = Arc::new(Inner {
            file,
            kept: Mutex::new((kept, stamp)),
            tries: Mutex::default(),
            hashing: Mutex::default(),
            waiting: AtomicUsize::new(0),
        });
        Ok(Self {
            asks: Some(inner),
            everybody: false,
        })
    }

    /// Asks who sits at this machine, too: another program may pass on what comes from elsewhere.
    #[must_use]
    pub fn asking_everybody(self) -> Self {
        Self {
            everybody: true,
            ..self
        }
    }

    /// Whether whoever sits at this machine is asked, too.
    pub(crate) fn asks_everybody(&self) -> bool {
        self.everybody
    }

    /// Whether anybody is asked.
    pub fn asks(&self) -> bool {
        self.asks.is_some()
    }

    /// Whether a pass phrase is set for a role.
    pub fn has_phrase(&self, role: Role) -> bool {
        self.asks
            .as_ref()
            .is_some_and(|inner| inner.kept().0.phrase(role).is_some())
    }

    /// Sets the pass phrase of captain or crew; whoever came in by the old one is signed out.
    ///
    /// # Errors
    /// [`PhraseRefused`] as the inner answer; the outer is the disk's.
    pub fn set_phrase(&self, role: Role, phrase: &str) -> io::Result<Result<(), PhraseRefused>> {
        let Some(inner) = &self.asks else {
            return Ok(Ok(()));
        };
        if let Err(refused) = sound(phrase) {
            return Ok(Err(refused));
        }
        let other = if role == Role::Captain {
            Role::Crew
        } else {
            Role::Captain
        };
        let theirs = inner.kept().0.phrase(other).map(str::to_owned);
        if theirs.is_some_and(|hash| inner.verified(phrase, &hash)) {
            return Ok(Err(PhraseRefused::Same));
        }
        let hash = Argon2::default()
            .hash_password(phrase.as_bytes())
            .map_err(|error| io::Error::other(error.to_string()))?
            .to_string();
        inner.change(|kept| {
            kept.set_phrase(role, Some(hash));
            kept.sessions.retain(|session| session.role() != role);
        })?;
        Ok(Ok(()))
    }

    /// Lets somebody in by a pass phrase: the session's token, and what they may do.
    pub(crate) fn sign_in(
        &self,
        (peer, device): (IpAddr, &str),
        phrase: &str,
        now: Timestamp,
    ) -> io::Result<Result<(String, Role), NotIn>> {
        let Some(inner) = &self.asks else {
            return Ok(Err(NotIn::Wrong));
        };
        if let Some(seconds) = inner.tries().wait(peer, now) {
            return Ok(Err(NotIn::Wait(seconds)));
        }
        if inner.waiting.fetch_add(1, Ordering::AcqRel) >= WAITING {
            inner.waiting.fetch_sub(1, Ordering::AcqRel);
            return Ok(Err(NotIn::Wait(5)));
        }
        let role = inner.role_by(phrase);
        inner.waiting.fetch_sub(1, Ordering::AcqRel);
        let Some(role) = role else {
            inner.tries().failed(peer, now);
            tracing::warn!(%peer, "a pass phrase that is nobody's");
            return Ok(Err(NotIn::Wrong));
        };
        inner.tries().forget(peer);
        tracing::info!(%peer, role = role.key(), "signed in");
        Ok(Ok((inner.begin(role, device, now)?, role)))
    }

    /// Lets a guest in by their card; none when it is not the card of now.
    pub(crate) fn come_in(
        &self,
        card: &str,
        device: &str,
        now: Timestamp,
    ) -> io::Result<Option<String>> {
        let Some(inner) = &self.asks else {
            return Ok(None);
        };
        let known = inner.kept().0.guest == Some(digest(card));
        if known {
            inner.begin(Role::Guest, device, now).map(Some)
        } else {
            Ok(None)
        }
    }

    /// Makes a new guest card: what it says. The old one lets nobody in any more.
    pub(crate) fn new_card(&self) -> io::Result<String> {
        let token = token()?;
        if let Some(inner) = &self.asks {
            inner.change(|kept| kept.guest = Some(digest(&token)))?;
        }
        Ok(token)
    }

    /// Takes the guest card back and signs guests out.
    pub(crate) fn no_card(&self) -> io::Result<()> {
        self.each(|kept| {
            kept.guest = None;
            kept.sessions
                .retain(|session| session.role() != Role::Guest);
        })
    }

    /// Whether there is a guest card.
    pub(crate) fn has_card(&self) -> bool {
        self.asks
            .as_ref()
            .is_some_and(|inner| inner.kept().0.guest.is_some())
    }

    /// Who a token belongs to.
    pub(crate) fn who(&self, token: &str, now: Timestamp) -> Option<Aboard> {
        let mut kept = self.asks.as_ref()?.kept();
        let digest = digest(token);
        let session = kept
            .0
            .sessions
            .iter_mut()
            .find(|session| session.token == digest)?;
        if session.is_over(now) {
            return None;
        }
        session.seen_utc_s = now.as_second();
        Some(Aboard {
            role: session.role(),
            session: Some(session.id),
        })
    }

    /// Every session that goes on, the latest seen first.
    pub(crate) fn sessions(&self, now: Timestamp) -> Vec<SessionSeen> {
        let Some(inner) = &self.asks else {
            return Vec::new();
        };
        let kept = inner.kept();
        let going = kept
            .0
            .sessions
            .iter()
            .filter(|session| !session.is_over(now));
        let mut all: Vec<SessionSeen> = going.map(Session::told).collect();
        all.sort_by_key(|session| std::cmp::Reverse(session.seen));
        all
    }

    /// Ends a session.
    pub(crate) fn sign_out(&self, id: u64) -> io::Result<()> {
        self.each(|kept| kept.sessions.retain(|session| session.id != id))
    }

    /// Ends every session, guests' too.
    pub(crate) fn sign_all_out(&self) -> io::Result<()> {
        self.each(|kept| kept.sessions.clear())
    }

    fn each(&self, change: impl FnOnce(&mut Kept)) -> io::Result<()> {
        self.asks
            .as_ref()
            .map_or(Ok(()), |inner| inner.change(change))
    }
}

impl Inner {
    /// What the file says now: another program may have set a phrase.
    fn kept(&self) -> MutexGuard<'_, (Kept, Option<Stamp>)> {
        let mut kept = self.kept.lock().unwrap_or_else(PoisonError::into_inner);
        let now = stamp(&self.file);
        if now != kept.1 {
            match Kept::read(&self.file) {
                Ok(read) => *kept = (read, now),
                Err(error) => tracing::error!(%error, "who is aboard cannot be read"),
            }
        }
        kept
    }

    fn change(&self, change: impl FnOnce(&mut Kept)) -> io::Result<()> {
        let mut kept = self.kept();
        change(&mut kept.0);
        kept.0.write(&self.file)?;
        kept.1 = stamp(&self.file);
        Ok(())
    }

    fn tries(&self) -> MutexGuard<'_, Tries> {
        self.tries.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Whose a phrase is. Every hash is looked at, so that the time tells nothing of which there are.
    fn role_by(&self, phrase: &str) -> Option<Role> {
        let hashes: Vec<(Role, Option<String>)> = {
            let kept = self.kept();
            let of = |role| (role, kept.0.phrase(role).map(str::to_owned));
            [Role::Captain, Role::Crew].map(of).into()
        };
        let too_long = phrase.chars().count() > LONGEST;
        let mut whose = None;
        for (role, hash) in hashes {
            let fits = !too_long && hash.is_some_and(|hash| self.verified(phrase, &hash));
            if fits && whose.is_none() {
                whose = Some(role);
            }
        }
        whose
    }

    fn verified(&self, phrase: &str, hash: &str) -> bool {
        let _one_at_a_time = self.hashing.lock().unwrap_or_else(PoisonError::into_inner);
        PasswordHash::new(hash).is_ok_and(|hash| {
            Argon2::default()
                .verify_password(phrase.as_bytes(), &hash)
                .is_ok()
        })
    }

    fn begin(&self, role: Role, device: &str, now: Timestamp) -> io::Result<String> {
        let token = token()?;
        let mut id = [0; 4];
        getrandom::fill(&mut id).map_err(io::Error::other)?;
        let days = if role == Role::Guest {
            TRIP_DAYS
        } else {
            SEASON_DAYS
        };
        let ends = now + SignedDuration::from_hours(24 * days);
        self.change(|kept| {
            kept.sessions.retain(|session| !session.is_over(now));
            while kept.sessions.len() >= SESSIONS {
                let oldest =
                    (0..kept.sessions.len()).min_by_key(|at| kept.sessions[*at].seen_utc_s);
                kept.sessions.remove(oldest.unwrap_or(0));
            }
            kept.sessions.push(Session {
                id: u64::from(u32::from_le_bytes(id)),
                token: digest(&token),
                role: role.key().to_owned(),
                device: device
                    .chars()
                    .filter(|c| !c.is_control())
                    .take(120)
                    .collect(),
                since_utc_s: now.as_second(),
                seen_utc_s: now.as_second(),
                ends_utc_s: ends.as_second(),
            });
        })?;
        Ok(token)
    }
}

/// Seconds for which a session's cookie is kept.
pub(crate) fn lasts(role: Role) -> i64 {
    let days = if role == Role::Guest {
        TRIP_DAYS
    } else {
        SEASON_DAYS
    };
    days * 24 * 3_600
}

/// What tells a file from the one that was there before: each is a new one, and clocks of disks are coarse.
fn stamp(file: &Path) -> Option<Stamp> {
    let meta = std::fs::metadata(file).ok()?;
    #[cfg(unix)]
    let number = std::os::unix::fs::MetadataExt::ino(&meta);
    #[cfg(not(unix))]
    let number = 0;
    Some((meta.modified().ok()?, number, meta.len()))
}

/// 256 bits that nobody can guess.
fn token() -> io::Result<String> {
    let mut bytes = [0; 32];
    getrandom::fill(&mut bytes).map_err(io::Error::other)?;
    Ok(BASE64_URL_SAFE_NO_PAD.encode(bytes))
}

/// What is kept of a token: who reads the file cannot come in by it.
fn digest(token: &str) -> String {
    BASE64_URL_SAFE_NO_PAD.encode(Sha256::digest(token.as_bytes()))
}

fn sound(phrase: &str) -> Result<(), PhraseRefused> {
    let characters = phrase.chars().count();
    if characters < SHORTEST {
        return Err(PhraseRefused::Short);
    }
    if characters > LONGEST {
        return Err(PhraseRefused::Long);
    }
    let small = phrase.to_lowercase();
    let different: std::collections::BTreeSet<char> = small.chars().collect();
    let plain = [
        "motilis",
        "password",
        "passphrase",
        "pass phrase",
        "123456",
        "qwerty",
        "abcdef",
    ];
    if different.len() < DIFFERENT || plain.iter().any(|word| small.contains(word)) {
        return Err(PhraseRefused::Plain);
    }
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    const PHRASE: &str = "heron cedar nine buoys";
    const CREW: &str = "amber kettle dry oars";

    fn now() -> Timestamp {
        "2026-06-04T05:00:00Z".parse().unwrap()
    }

    fn peer() -> IpAddr {
        "192.168.4.20".parse().unwrap()
    }

    fn access() -> (tempfile::TempDir, Access) {
        let folder = tempfile::tempdir().unwrap();
        let access = Access::of(folder.path().join("boat.access.json")).unwrap();
        access.set_phrase(Role::Captain, PHRASE).unwrap().unwrap();
        (folder, access)
    }

    fn sign_in(access: &Access, phrase: &str, at: Timestamp) -> Result<(String, Role), NotIn> {
        access.sign_in((peer(), "a phone"), phrase, at).unwrap()
    }

    #[rstest]
    #[case("eleven char", PhraseRefused::Short)]
    #[case("aaaaaaaaaaaaaaaaaa", PhraseRefused::Plain)]
    #[case("Password-of-the-boat", PhraseRefused::Plain)]
    #[case("motilis aboard 2026", PhraseRefused::Plain)]
    fn a_phrase_that_is_soon_guessed_is_refused(#[case] phrase: &str, #[case] why: PhraseRefused) {
        let (_folder, access) = access();
        assert_eq!(access.set_phrase(Role::Crew, phrase).unwrap(), Err(why));
        assert!(!access.has_phrase(Role::Crew));
    }

    #[test]
    fn the_phrase_says_who_it_is() {
        let (_folder, access) = access();
        assert_eq!(
            access.set_phrase(Role::Crew, PHRASE).unwrap(),
            Err(PhraseRefused::Same)
        );
        access.set_phrase(Role::Crew, CREW).unwrap().unwrap();
        assert_eq!(sign_in(&access, PHRASE, now()).unwrap().1, Role::Captain);
        let (token, role) = sign_in(&access, CREW, now()).unwrap();
        assert_eq!(role, Role::Crew);
        assert_eq!(access.who(&token, now()).unwrap().role, Role::Crew);
        assert_eq!(
            sign_in(&access, "heron cedar nine buoyS", now()),
            Err(NotIn::Wrong)
        );
        let endless = format!("{PHRASE}{}", "x".repeat(1_000_000));
        assert_eq!(sign_in(&access, &endless, now()), Err(NotIn::Wrong));
        // Another phrase for the crew puts the crew out, and the captain not.
        access
            .set_phrase(Role::Crew, "nine grey kettles sing")
            .unwrap()
            .unwrap();
        assert_eq!(access.who(&token, now()), None);
        assert_eq!(access.sessions(now()).len(), 1);
    }

    #[test]
    fn a_session_lasts_a_season_and_no_longer() {
        let (_folder, access) = access();
        let (token, _) = sign_in(&access, PHRASE, now()).unwrap();
        let after = |days: i64| now() + SignedDuration::from_hours(24 * days);
        assert!(access.who(&token, after(239)).is_some());
        assert_eq!(access.who(&token, after(241)), None);
        assert!(access.sessions(after(241)).is_empty());
    }

    #[test]
    fn sessions_end_one_by_one_and_all_together_and_outlive_the_program() {
        let (folder, access) = access();
        let tokens: Vec<String> = (0..3)
            .map(|_| sign_in(&access, PHRASE, now()).unwrap().0)
            .collect();
        let again = Access::of(folder.path().join("boat.access.json")).unwrap();
        let id = again.who(&tokens[0], now()).unwrap().session.unwrap();
        access.sign_out(id).unwrap();
        let aboard = |access: &Access| -> Vec<bool> {
            tokens
                .iter()
                .map(|token| access.who(token, now()).is_some())
                .collect()
        };
        assert_eq!(aboard(&access), [false, true, true]);
        assert_eq!(
            aboard(&again),
            [false, true, true],
            "the other program reads it anew"
        );
        access.sign_all_out().unwrap();
        assert_eq!(aboard(&again), [false; 3]);
    }

    #[test]
    fn the_file_holds_no_phrase_and_no_token_and_is_nobody_elses() {
        let (folder, access) = access();
        let (token, _) = sign_in(&access, PHRASE, now()).unwrap();
        let card = access.new_card().unwrap();
        let file = folder.path().join("boat.access.json");
        let text = std::fs::read_to_string(&file).unwrap();
        assert!(text.contains("$argon2id$v=19$m=19456,t=2,p=1$"), "{text}");
        for secret in [PHRASE, &token, &card] {
            assert!(!text.contains(secret));
        }
        #[cfg(unix)]
        {
            let mode = std::os::unix::fs::PermissionsExt::mode(
                &std::fs::metadata(&file).unwrap().permissions(),
            );
            assert_eq!(mode & 0o077, 0);
        }
    }

    #[test]
    fn five_wrong_tries_cost_time_and_a_right_one_does_not_help_before() {
        let (_folder, access) = access();
        for _ in 0..5 {
            assert_eq!(
                sign_in(&access, "not the phrase at all", now()),
                Err(NotIn::Wrong)
            );
        }
        assert_eq!(sign_in(&access, PHRASE, now()), Err(NotIn::Wait(30)));
        let later = now() + SignedDuration::from_secs(31);
        assert!(sign_in(&access, PHRASE, later).is_ok());
    }

    #[test]
    fn a_guest_comes_in_by_the_card_of_now_only() {
        let (_folder, access) = access();
        assert_eq!(access.come_in("", "a phone", now()).unwrap(), None);
        let old = access.new_card().unwrap();
        let card = access.new_card().unwrap();
        assert_eq!(access.come_in(&old, "a phone", now()).unwrap(), None);
        let token = access.come_in(&card, "a phone", now()).unwrap().unwrap();
        assert_eq!(access.who(&token, now()).unwrap().role, Role::Guest);
        access.no_card().unwrap();
        assert_eq!(access.who(&token, now()), None);
        assert_eq!(access.come_in(&card, "a phone", now()).unwrap(), None);
    }

    #[test]
    fn a_thousand_sessions_do_not_heap_up() {
        let (_folder, access) = access();
        let card = access.new_card().unwrap();
        for n in 0..200 {
            let at = now() + SignedDuration::from_secs(n);
            access.come_in(&card, "a phone", at).unwrap();
        }
        assert_eq!(access.sessions(now()).len(), SESSIONS);
    }
}
