/// What was typed, in quotes and short enough for a sentence on one line.
pub fn quoted(typed: &str) -> String {
    const LONGEST: usize = 24;
    let mut rest = typed.trim().chars();
    let short: String = rest
        .by_ref()
        .take(LONGEST)
        .map(|one| if one.is_control() { ' ' } else { one })
        .collect();
    let more = if rest.next().is_some() { "…" } else { "" };
    format!("“{short}{more}”")
}

#[cfg(test)]
mod tests {
    use super::quoted;

    #[test]
    fn what_is_quoted_stays_on_its_line() {
        assert_eq!(quoted(" 2e9\n b~ "), "“2e9  b~”");
        assert_eq!(quoted("fast"), "“fast”");
        let long = "no figure at all, a whole sentence";
        assert_eq!(quoted(long), "“no figure at all, a whol…”");
        assert_eq!(quoted(&long[..24]), "“no figure at all, a whol”");
    }
}
