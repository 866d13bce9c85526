//! What comes out of the printer: a PDF rendered to grey pixels.

use base64::Engine;
use base64::prelude::BASE64_STANDARD;
use std::process::Command;

/// A page as grey pixels.
pub struct Page {
    /// Its width, pixels.
    pub width: usize,
    pixels: Vec<u8>,
}

impl Page {
    /// The longest dark run of each row, pixels.
    pub fn dark_runs(&self) -> Vec<usize> {
        let longest = |row: &[u8]| {
            let (mut best, mut run) = (0, 0);
            for grey in row {
                run = if *grey < 120 { run + 1 } else { 0 };
                best = best.max(run);
            }
            best
        };
        self.pixels.chunks(self.width).map(longest).collect()
    }
}

/// Renders a PDF that came as base64.
///
/// # Panics
/// When it is no PDF, or `pdftoppm` is not installed; `./test` installs it.
pub(crate) fn render(pdf: &str, dpi: u32) -> Vec<Page> {
    let folder = tempfile::tempdir().expect("a temporary folder");
    let file = folder.path().join("print.pdf");
    let bytes = BASE64_STANDARD
        .decode(pdf)
        .expect("the browser sends base64");
    std::fs::write(&file, bytes).expect("the folder takes it");
    let status = Command::new("pdftoppm")
        .args(["-gray", "-r", &dpi.to_string()])
        .arg(&file)
        .arg(folder.path().join("page"))
        .status()
        .expect("pdftoppm is installed; `./test` does it");
    assert!(status.success(), "pdftoppm reads what the browser printed");
    let mut files: Vec<_> = std::fs::read_dir(folder.path())
        .expect("the folder is there")
        .filter_map(|entry| Some(entry.ok()?.path()))
        .filter(|path| path.extension().is_some_and(|end| end == "pgm"))
        .collect();
    files.sort();
    files
        .iter()
        .map(|path| page(&std::fs::read(path).expect("it was just written")))
        .collect()
}

/// Reads a grey map: "P5", width, height, 255, pixels.
fn page(bytes: &[u8]) -> Page {
    let mut fields = bytes.split(u8::is_ascii_whitespace).skip(1);
    let mut number = || -> usize {
        let field = fields
            .next()
            .and_then(|field| std::str::from_utf8(field).ok());
        field
            .and_then(|field| field.parse().ok())
            .expect("a grey map begins with its size")
    };
    let (width, height) = (number(), number());
    Page {
        width,
        pixels: bytes[bytes.len() - width * height..].to_vec(),
    }
}
