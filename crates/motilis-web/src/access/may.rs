//! What each role may ask for, on one screen. What is not named here is the captain's alone.

use actix_web::http::Method;
use motilis_view::Role;

/// What everybody may see who is not signed in: the way in, and what pages are made of.
const FOR_ALL: [&str; 8] = [
    "/sign-in",
    "/guest/",
    "/static/",
    "/manifest.webmanifest",
    "/worker.js",
    "/favicon.ico",
    "/link",
    "/health",
];

/// What only the captain looks at.
const CAPTAINS: [&str; 2] = ["/data", "/aboard"];

/// What guests do not look at: files that carry the book away.
const NOT_FOR_GUESTS: [&str; 6] = [
    "/log/files",
    "/log/track.gpx",
    "/box/export.",
    "/box/import",
    "/box/shopping.",
    "/evidence.",
];

/// What the crew does: Boat, Log, casts, their own switches.
const CREW_DOES: [&str; 13] = [
    "/boat/mark",
    "/boat/marks",
    "/boat/helm",
    "/boat/reel",
    "/boat/record",
    "/log/",
    "/log",
    "/acts/",
    "/river/cast",
    "/outings/end",
    "/settings/units",
    "/settings/theme",
    "/api/v1/solve/",
];

/// What a guest changes: how pages look to them.
const GUEST_DOES: [&str; 2] = ["/settings/units", "/settings/theme"];

/// What of the log is the captain's: what comes in by files, and experiments.
const NOT_THE_CREWS: [&str; 4] = [
    "/log/files",
    "/log/track",
    "/log/tracks",
    "/log/experiments",
];

/// Whether an address lies under a name: "/data/check" under "/data", and "/logs" not under "/log".
fn under(path: &str, name: &str) -> bool {
    path.strip_prefix(name)
        .is_some_and(|rest| rest.is_empty() || rest.starts_with('/') || name.ends_with(['/', '.']))
}

fn any(path: &str, names: &[&str]) -> bool {
    names.iter().any(|name| under(path, name))
}

/// Whether somebody may see it who is not signed in.
pub(crate) fn is_for_all(path: &str) -> bool {
    any(path, &FOR_ALL)
}

/// Whether a role may ask for it.
pub(crate) fn may(role: Role, method: &Method, path: &str) -> bool {
    if role == Role::Captain || path == "/sign-out" || is_for_all(path) {
        return true;
    }
    let looks = matches!(*method, Method::GET | Method::HEAD);
    match (role, looks) {
        (Role::Captain, _) => true,
        (Role::Crew, true) => !any(path, &CAPTAINS),
        (Role::Guest, true) => !any(path, &CAPTAINS) && !any(path, &NOT_FOR_GUESTS),
        (Role::Crew, false) => any(path, &CREW_DOES) && !any(path, &NOT_THE_CREWS),
        (Role::Guest, false) => any(path, &GUEST_DOES),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use rstest::rstest;

    #[rstest]
    #[case("/today", "111")]
    #[case("/boat/live", "111")]
    #[case("/data", "100")]
    #[case("/data/copies/boat-2026.db", "100")]
    #[case("/aboard", "100")]
    #[case("/log/files/book.json", "110")]
    #[case("/box/export.csv", "110")]
    #[case("/evidence", "111")]
    #[case("/evidence.csv", "110")]
    fn looks(#[case] path: &str, #[case] who: &str) {
        assert_eq!(each(&Method::GET, path), who);
    }

    #[rstest]
    #[case("/log", "110")]
    #[case("/log/rods/out", "110")]
    #[case("/log/17/photo", "110")]
    #[case("/boat/mark", "110")]
    #[case("/acts/9/undo", "110")]
    #[case("/settings/units", "111")]
    #[case("/sign-out", "111")]
    #[case("/log/files", "100")]
    #[case("/log/track", "100")]
    #[case("/log/tracks/3/delete", "100")]
    #[case("/log/experiments", "100")]
    #[case("/boat/instruments", "100")]
    #[case("/boat/practice", "100")]
    #[case("/bench/3/edit", "100")]
    #[case("/data/restore", "100")]
    #[case("/aboard/crew", "100")]
    #[case("/outings", "100")]
    #[case("/outings/end", "110")]
    #[case("/logs", "100")]
    fn acts(#[case] path: &str, #[case] who: &str) {
        assert_eq!(each(&Method::POST, path), who);
    }

    fn each(method: &Method, path: &str) -> String {
        let roles = [Role::Captain, Role::Crew, Role::Guest];
        roles
            .map(|role| if may(role, method, path) { '1' } else { '0' })
            .iter()
            .collect()
    }
}
