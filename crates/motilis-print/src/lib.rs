//! Drawings as PDF, at the size they say they have.
//!
//! The conversion is `svg2pdf`'s; a crate of its own because it brings some sixty others along. An SVG
//! that gives its width and height in millimetres becomes a page of that size, so a bar of 100 mm in it
//! is 100 mm on paper. Text is set in the application's own lettering, which ships here as two static
//! cuts (made from the variable font with fontTools' instancer; licence beside them).

use std::sync::Arc;
use svg2pdf::usvg::{Options, Tree, fontdb};
use thiserror::Error;

/// Why a drawing became no PDF.
#[derive(Debug, Error)]
#[non_exhaustive]
pub enum Error {
    /// The drawing is no SVG.
    #[error("the drawing cannot be read: {0}")]
    Drawing(String),
    /// The PDF could not be written.
    #[error("the PDF cannot be written: {0}")]
    Pdf(String),
}

const FONTS: [&[u8]; 2] = [
    include_bytes!("../fonts/national-park-medium.ttf"),
    include_bytes!("../fonts/national-park-bold.ttf"),
];
/// Pixels of CSS to the inch, which an SVG's millimetres are reckoned in.
const CSS_DPI: f32 = 96.0;

/// A drawing as a PDF of one page.
///
/// # Errors
/// [`enum@Error`].
pub fn pdf(svg: &str) -> Result<Vec<u8>, Error> {
    let mut fonts = fontdb::Database::new();
    for font in FONTS {
        fonts.load_font_data(font.to_vec());
    }
    let options = Options {
        dpi: CSS_DPI,
        font_family: "National Park".to_owned(),
        fontdb: Arc::new(fonts),
        ..Options::default()
    };
    let tree = Tree::from_str(svg, &options).map_err(|error| Error::Drawing(error.to_string()))?;
    let page = svg2pdf::PageOptions { dpi: CSS_DPI };
    svg2pdf::to_pdf(&tree, svg2pdf::ConversionOptions::default(), page)
        .map_err(|error| Error::Pdf(error.to_string()))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_page_is_as_large_as_the_drawing_says() {
        let svg = r#"<svg xmlns="http://www.w3.org/2000/svg" width="297mm" height="210mm" viewBox="0 0 297 210"><text x="10" y="20" font-size="5">Colorado No. 4</text></svg>"#;
        let pdf = pdf(svg).unwrap();
        let text = String::from_utf8_lossy(&pdf);
        // 297 mm and 210 mm in points of 1/72 in.
        let media = text
            .split("/MediaBox [")
            .nth(1)
            .unwrap()
            .split(']')
            .next()
            .unwrap();
        let sides: Vec<f64> = media
            .split_whitespace()
            .filter_map(|n| n.parse().ok())
            .collect();
        assert!(
            (sides[2] - 841.89).abs() < 0.02 && (sides[3] - 595.28).abs() < 0.02,
            "{sides:?}"
        );
        // The lettering is in it.
        assert!(text.contains("NationalPark"), "no font");
    }

    #[test]
    fn what_is_no_drawing_is_refused() {
        assert!(matches!(pdf("a diary"), Err(Error::Drawing(_))));
    }
}
