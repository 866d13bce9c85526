//! The tying sheet: a rig at true size on A4 or Letter, with bars that prove the scale.

use super::bench::{BenchDrawing, BenchSource, Detail};
use super::kit::Px;
use crate::words::bench as words;
use askama::Template;
use motilis_core::bench::{Caution, Layout, cut, steps};
use motilis_core::book::Board;
use motilis_core::units::Metres;

/// Pixels of CSS to the millimetre.
const MM: f64 = 96.0 / 25.4;
/// Margin of the sheet, mm.
const EDGE: f64 = 10.0;

/// The paper a sheet is printed on, lying.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Paper {
    /// 297 × 210 mm.
    A4,
    /// 11 × 8½ in.
    Letter,
}

impl Paper {
    /// Its name in addresses and on the command line.
    pub fn key(self) -> &'static str {
        match self {
            Self::A4 => "a4",
            Self::Letter => "letter",
        }
    }

    /// The paper of a name.
    pub fn from_key(key: &str) -> Option<Self> {
        [Self::A4, Self::Letter]
            .into_iter()
            .find(|paper| paper.key() == key)
    }

    /// Its name to read.
    pub fn name(self) -> &'static str {
        match self {
            Self::A4 => "A4",
            Self::Letter => "Letter",
        }
    }

    /// Width and height, mm.
    fn size(self) -> (f64, f64) {
        match self {
            Self::A4 => (297.0, 210.0),
            Self::Letter => (279.4, 215.9),
        }
    }
}

/// What a sheet is made from.
pub struct SheetSource {
    /// The drawing.
    pub rig: BenchDrawing,
    /// Name of the rig.
    pub name: String,
    /// Its kind and what it is threaded on.
    pub kind: String,
    /// Blade, beads, hooks, line.
    pub block: Vec<(&'static str, String)>,
    /// The steps.
    pub steps: Vec<String>,
    /// What to mind, once each.
    pub cautions: Vec<&'static str>,
    /// What is cut off the spool.
    pub cut: Metres,
    /// The paper.
    pub paper: Paper,
}

/// Words on the sheet.
#[derive(Debug, Clone)]
struct Line {
    x: Px,
    y: Px,
    text: String,
    class: &'static str,
}

/// A bar of a known length.
#[derive(Debug, Clone)]
struct Bar {
    x: Px,
    y: Px,
    end: Px,
    ticks: Vec<Px>,
    label: String,
    /// Whether its label stands beside it.
    beside: bool,
}

/// One label of the strip.
#[derive(Debug, Clone)]
struct Label {
    x: Px,
    name: String,
    parts: String,
}

/// The sheet, one drawing for the browser's print and for the PDF.
#[derive(Debug, Clone, Template)]
#[template(path = "svg/sheet.svg")]
pub struct Sheet {
    paper: Paper,
    width_mm: f64,
    height_mm: f64,
    width: Px,
    height: Px,
    rig: BenchDrawing,
    rig_at: (Px, Px),
    ruler_y: Px,
    lines: Vec<Line>,
    bars: Vec<Bar>,
    labels: Vec<Label>,
    label_y: Px,
    label_size: (Px, Px),
    /// Style and symbols, for a drawing that must stand alone.
    style: Option<String>,
    title: String,
}

/// As many whole parts as fit in so many letters, the blade always.
fn whole_parts(block: &[(&str, String)], most: usize) -> String {
    let mut parts = String::new();
    for (_, part) in block {
        let with = if parts.is_empty() {
            part.clone()
        } else {
            format!("{parts}, {part}")
        };
        if !parts.is_empty() && with.chars().count() > most {
            break;
        }
        parts = with;
    }
    parts
}

/// Height and width of a label, mm, and how many lie side by side.
const LABEL: (f64, f64) = (12.0, 62.0);
const LABELS: usize = 4;

impl Sheet {
    /// Lays a sheet out.
    pub fn new(source: SheetSource) -> Self {
        let (width_mm, height_mm) = source.paper.size();
        let (width, height) = (width_mm * MM, height_mm * MM);
        let edge = EDGE * MM;
        let mut lines = Vec::new();
        let mut say = |x: f64, y: f64, text: String, class| {
            lines.push(Line {
                x: Px(x),
                y: Px(y),
                text,
                class,
            });
        };
        say(edge, edge + 20.0, source.name.clone(), "sheet-name");
        say(edge, edge + 38.0, source.kind.clone(), "t2");
        let block: Vec<String> = source
            .block
            .iter()
            .map(|(label, value)| format!("{label}: {value}"))
            .collect();
        say(edge, edge + 55.0, block.join("; "), "t2");
        let rig_y = edge + 62.0;
        let rig_height = source.rig.height.0 - 60.0;
        let ruler_y = rig_height;
        let below = rig_y + rig_height + 60.0;
        // The two bars stand in the upper right corner, one under the other.
        let bar = |(x, y): (f64, f64), length: f64, parts: usize, label: String| Bar {
            x: Px(x),
            y: Px(y),
            end: Px(x + length),
            ticks: (0..=parts)
                .map(|i| Px(x + length * i as f64 / parts as f64))
                .collect(),
            beside: parts > 1,
            label,
        };
        let corner = width - edge - 4.0 * 96.0;
        let mut bars = vec![
            bar((corner, edge + 11.0), 100.0 * MM, 10, "100 mm".into()),
            bar((corner, edge + 33.0), 4.0 * 96.0, 4, "4 in".into()),
        ];
        say(
            corner - 230.0,
            edge + 11.0,
            "Print at 100 %: both".to_owned(),
            "t2",
        );
        say(
            corner - 230.0,
            edge + 26.0,
            "bars must measure true.".to_owned(),
            "t2",
        );
        // What is cut short enough is laid on the sheet and cut to its mark.
        let cut = source.cut.0 * 1e3 * MM;
        let first = if cut <= width - 2.0 * edge {
            let label = format!("Cut {}", words::mm(source.cut));
            bars.push(bar((edge, below + 18.0), cut, 1, label));
            below + 50.0
        } else {
            below + 18.0
        };
        let label_y = height - edge - LABEL.0 * MM;
        // Beside a short rig there is room for all steps; under a long one they stand in two columns.
        let beside = source.rig.width.0 + 3.0 * edge;
        let (columns, top) = if width - beside > 330.0 {
            (vec![(beside, width - edge - beside)], rig_y + 18.0)
        } else {
            let half = 0.5 * (width - 2.0 * edge);
            (vec![(edge, half), (edge + half, half)], first)
        };
        lines.extend(steps_in(&columns, (top, label_y - 8.0), &source));
        let short = |text: &str, most: usize| text.chars().take(most).collect::<String>();
        let fits = (((width_mm - 2.0 * EDGE) / LABEL.1) as usize).min(LABELS);
        let labels = (0..fits)
            .map(|i| Label {
                x: Px(edge + LABEL.1 * MM * i as f64),
                name: short(&source.name, 26),
                parts: short(&whole_parts(&source.block, 36), 36),
            })
            .collect();
        Self {
            paper: source.paper,
            width_mm,
            height_mm,
            width: Px(width),
            height: Px(height),
            title: format!("Tying sheet of {} at true size", source.name),
            rig: source.rig,
            rig_at: (Px(edge - 20.0), Px(rig_y)),
            ruler_y: Px(ruler_y),
            lines,
            bars,
            labels,
            label_y: Px(label_y),
            label_size: (Px(LABEL.1 * MM), Px(LABEL.0 * MM)),
            style: None,
        }
    }

    /// The sheet of a board: the drawing, its steps and its words.
    pub fn of_board(board: &Board, paper: Paper) -> Self {
        let stack = &board.stack;
        let steps = steps(stack);
        let marks: Vec<(Option<usize>, bool)> = steps
            .iter()
            .map(|step| (step.action.piece(), false))
            .collect();
        let rig = BenchDrawing::new(&BenchSource {
            stack,
            layout: &Layout::new(stack),
            name: &board.name,
            detail: Detail::Full,
            selected: None,
            flags: &[],
            steps: &marks,
            in_hand: None,
            hanging: false,
            least_width: 0.0,
        });
        Self::new(SheetSource {
            rig,
            name: board.name.clone(),
            kind: crate::words::capital(stack.kind.name()),
            block: words::title_block(stack),
            steps: steps.iter().map(|step| words::step(step, stack)).collect(),
            cautions: Caution::ALL
                .iter()
                .filter(|caution| steps.iter().any(|step| step.caution == Some(**caution)))
                .map(|caution| caution.name())
                .collect(),
            cut: cut(stack).whole,
            paper,
        })
    }

    /// The same with its style inside, for a reader that has no style sheet.
    pub fn alone(self) -> Self {
        Self {
            style: Some(crate::assets::drawing_style()),
            ..self
        }
    }
}

/// The steps, numbered, and the cautions in columns (left edge and width), broken between steps.
fn steps_in(columns: &[(f64, f64)], (top, bottom): (f64, f64), source: &SheetSource) -> Vec<Line> {
    let longest = columns
        .first()
        .map_or(40, |(_, width)| (width / 6.9) as usize);
    let numbered = source.steps.iter().enumerate();
    let mut blocks: Vec<Vec<String>> = numbered
        .map(|(number, step)| wrapped(&format!("{}  {step}", number + 1), longest))
        .collect();
    blocks.extend(
        source
            .cautions
            .iter()
            .map(|caution| wrapped(caution, longest)),
    );
    let all: usize = blocks.iter().map(Vec::len).sum();
    let full = all.div_ceil(columns.len());
    let mut rows = vec![0; columns.len()];
    let mut placed = Vec::new();
    let mut at = 0;
    for block in blocks {
        if rows[at] + block.len() > full && rows[at] > 0 && at + 1 < columns.len() {
            at += 1;
        }
        for text in block {
            placed.push((columns[at].0, rows[at], text));
            rows[at] += 1;
        }
    }
    let most = rows.into_iter().max().unwrap_or(1).max(1);
    let pitch = ((bottom - top) / most as f64).min(18.0);
    placed
        .into_iter()
        .map(|(x, row, text)| Line {
            x: Px(x),
            y: Px(top + pitch * row as f64),
            text,
            class: "t2",
        })
        .collect()
}

/// Breaks a sentence into lines of so many characters.
fn wrapped(text: &str, longest: usize) -> Vec<String> {
    let mut lines = vec![String::new()];
    for word in text.split(' ') {
        let line = lines.last_mut().expect("there is always a line");
        if !line.is_empty() && line.chars().count() + word.chars().count() + 1 > longest {
            lines.push(word.to_owned());
        } else {
            if !line.is_empty() {
                line.push(' ');
            }
            line.push_str(word);
        }
    }
    lines
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn long_steps_are_broken_between_words() {
        assert_eq!(wrapped("Bend the front eye", 9), ["Bend the", "front eye"]);
        assert_eq!(wrapped("Snell", 3), ["Snell"]);
    }

    #[test]
    fn papers_are_known_by_name() {
        assert_eq!(Paper::from_key("letter"), Some(Paper::Letter));
        assert_eq!(Paper::from_key("legal"), None);
    }
}
