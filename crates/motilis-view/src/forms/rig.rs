//! A new rig: its name, kind, fish, hook and set-up as typed.

use super::bench::Refused;
use super::{Texts, problem};
use motilis_core::bench::starting;
use motilis_core::book::{SetupId, plain_text};
use motilis_core::fish::Fish;
use motilis_core::rig::{HookSize, Kind};
use motilis_helm::{Book, Error, RigAct};
use motilis_store::parts;

/// A rig's name as typed: one line, not empty.
///
/// # Errors
/// The sentence that says what is wrong with it.
pub fn name(typed: &str) -> Result<String, String> {
    let name = typed.trim();
    if name.is_empty() {
        return Err("Name is empty; call the rig something, like Tamarin two-hook.".into());
    }
    plain_text("name", name, 60).map_err(|error| problem(&error).0)?;
    Ok(name.to_owned())
}

/// A name for a variant of a rig that no other rig has.
///
/// # Errors
/// [`Error::Store`].
pub fn variant_name(book: &Book<'_>, of: &str) -> Result<String, Error> {
    let names = motilis_store::rigs::names(book.connection())?;
    let taken = |name: &str| names.iter().any(|(_, known)| known == name);
    let base: String = of.chars().take(48).collect();
    // One more than there are names: one of them is free.
    let free = (2..names.len() + 3)
        .map(|number| format!("{base} {number}"))
        .find(|name| !taken(name));
    Ok(free.unwrap_or(base))
}

/// The rig of a form, or what is wrong with it.
///
/// # Errors
/// [`Error::Store`].
pub fn read(book: &Book<'_>, typed: &Texts) -> Result<Result<RigAct, Refused>, Error> {
    let text = |name: &str| typed.get(name).map_or("", String::as_str);
    let refuse = |field: &str, sentence: String| Refused {
        field: field.to_owned(),
        typed: text(field).to_owned(),
        sentence,
    };
    let name = match name(text("name")) {
        Ok(name) => name,
        Err(sentence) => return Ok(Err(refuse("name", sentence))),
    };
    let Some(kind) = Kind::from_key(text("kind")) else {
        return Ok(Err(refuse(
            "kind",
            "There is no such kind of rig; choose one of the list.".into(),
        )));
    };
    let fish = Fish::from_key(text("fish")).unwrap_or(Fish::Walleye);
    let hook = match text("hook") {
        "" => kind.usual_hook_size(),
        code => match code.parse().ok().map(HookSize::from_code) {
            Some(Ok(size)) => size,
            _ => {
                return Ok(Err(refuse(
                    "hook",
                    "There is no such hook size; choose one of the list.".into(),
                )));
            }
        },
    };
    let stock = parts::stocked(book.connection())?;
    let mut stack = starting(kind, fish, hook, &stock)?;
    if text("start") == "empty" {
        stack.pieces.clear();
    }
    Ok(Ok(RigAct::Start {
        name,
        stack: Box::new(stack),
        setup: text("setup").parse().ok().map(SetupId),
    }))
}
