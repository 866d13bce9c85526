//! Styles, scripts and fonts, built into the program: nothing is fetched at run time.

use rust_embed::RustEmbed;
use std::borrow::Cow;
use std::collections::BTreeMap;
use std::sync::OnceLock;

#[derive(RustEmbed)]
#[folder = "static"]
struct Files;

/// A file as it is served.
pub struct Asset {
    /// Its bytes.
    pub bytes: Cow<'static, [u8]>,
    /// Its media type.
    pub media_type: String,
}

/// The file at a path below `static/`, if there is one.
pub fn get(path: &str) -> Option<Asset> {
    let file = Files::get(path)?;
    Some(Asset {
        media_type: file.metadata.mimetype().to_owned(),
        bytes: file.data,
    })
}

/// Names the state of all files together; part of their address, so that browsers may keep them.
pub fn version() -> &'static str {
    static VERSION: OnceLock<String> = OnceLock::new();
    VERSION.get_or_init(|| {
        let mut sum: u64 = 0xcbf2_9ce4_8422_2325;
        for path in Files::iter() {
            let hash = Files::get(&path).map(|file| file.metadata.sha256_hash());
            for byte in path.bytes().chain(hash.into_iter().flatten()) {
                // FNV-1a: enough to tell one build from the next.
                sum = (sum ^ u64::from(byte)).wrapping_mul(0x0100_0000_01b3);
            }
        }
        format!("{sum:016x}")
    })
}

/// The style of drawings with the colours of paper written out, for an SVG that stands alone.
///
/// The rules and the tokens are those of the pages, so that paper and screen cannot drift apart.
pub fn drawing_style() -> String {
    let text = |path: &str| {
        let file = get(path).expect("the style sheets are built in");
        String::from_utf8_lossy(&file.bytes).into_owned()
    };
    let page = text("app/motilis.css");
    let blocks = [
        page.split(":root").nth(1),
        page.split("@media print")
            .nth(1)
            .and_then(|print| print.split(":root").nth(1)),
    ];
    // What paper says comes later and counts.
    let tokens: BTreeMap<String, String> = blocks.into_iter().flatten().flat_map(tokens).collect();
    tokens
        .iter()
        .fold(text("app/drawing.css"), |style, (name, value)| {
            style.replace(&format!("var({name})"), value)
        })
}

/// Names and values of the custom properties of the block that a text begins with.
fn tokens(text: &str) -> Vec<(String, String)> {
    let block = text
        .split('{')
        .nth(1)
        .and_then(|block| block.split('}').next());
    block
        .unwrap_or_default()
        .split(';')
        .filter_map(|rule| {
            // A comment may stand before the next name.
            let (name, value) = rule.rsplit("*/").next()?.split_once(':')?;
            let name = name.trim();
            name.starts_with("--")
                .then(|| (name.to_owned(), value.trim().to_owned()))
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_style_of_paper_has_no_name_left_in_it() {
        let style = drawing_style();
        assert!(
            !style.contains("var("),
            "{}",
            &style[style.find("var(").unwrap()..][..60]
        );
        // Ink is black on paper, brass stays brass.
        assert!(style.contains(".l-out{fill:none;stroke:#000;"));
        assert!(style.contains(".f-br{fill:#D9AE4E}"));
    }

    #[test]
    fn every_third_party_file_has_its_licence_beside_it() {
        for licence in [
            "bootstrap/LICENSE",
            "htmx/LICENSE",
            "fonts/LICENSE-national-park.txt",
        ] {
            assert!(get(licence).is_some(), "{licence}");
        }
        assert_eq!(
            get("bootstrap/bootstrap-reboot.min.css")
                .unwrap()
                .media_type,
            "text/css"
        );
        assert!(get("../Cargo.toml").is_none());
    }

    #[test]
    fn nothing_points_at_another_host() {
        for path in ["app/motilis.css", "app/drawing.css", "app/motilis.js"] {
            let file = get(path).unwrap();
            let text = String::from_utf8_lossy(&file.bytes).into_owned();
            assert!(
                !text.contains("//cdn") && !text.contains("https://"),
                "{path}"
            );
        }
    }
}
