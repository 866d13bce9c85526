use super::counts::{Counts, Fault};
use super::sentence::{LONGEST, body, clock_of, near, said};
use jiff::{SignedDuration, Timestamp};
use motilis_core::boat::Said;

/// Something sound that came over the wire.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Heard {
    /// What it says.
    pub said: Said,
    /// The receiver's second it belongs to; `None` before any.
    pub second: Option<Timestamp>,
}

/// A damaged line may still say that a second has passed, so far ahead at most.
const FORWARD: SignedDuration = SignedDuration::from_secs(5);

/// Reads a stream of bytes.
#[derive(Debug, Clone, Default)]
pub struct Reader {
    line: Vec<u8>,
    /// Whether the line is longer than any sentence: the rest of it is not kept.
    overlong: bool,
    before: Vec<u8>,
    counts: Counts,
    second: Option<Timestamp>,
    fixed: Option<Timestamp>,
    placed: Option<Timestamp>,
    /// Kinds of receiver sentences without a time that came in this second.
    came: Vec<[u8; 3]>,
}

impl Reader {
    /// What became of all that came so far.
    pub fn counts(&self) -> Counts {
        self.counts
    }

    /// Takes bytes as they come and tells what was said in them, line by line.
    pub fn read(&mut self, bytes: &[u8], mut hear: impl FnMut(Heard)) {
        for &byte in bytes {
            match byte {
                b'\n' | b'\r' => self.end_line(&mut hear),
                _ if self.line.len() > LONGEST => self.overlong = true,
                _ => self.line.push(byte),
            }
        }
    }

    /// The stream has ended: what is left is a line.
    pub fn end(&mut self, mut hear: impl FnMut(Heard)) {
        self.end_line(&mut hear);
    }

    fn end_line(&mut self, hear: &mut impl FnMut(Heard)) {
        if self.line.is_empty() {
            return;
        }
        let line = std::mem::take(&mut self.line);
        self.counts.sentences += 1;
        let overlong = std::mem::take(&mut self.overlong);
        match self.take(&line, overlong) {
            Ok(heard) => {
                self.counts.good += 1;
                hear(heard);
            }
            Err(fault) => self.counts.drop_for(fault),
        }
        self.line = line;
        self.line.clear();
    }

    fn take(&mut self, line: &[u8], overlong: bool) -> Result<Heard, Fault> {
        self.pass_time(line);
        let body = if overlong {
            Err(Fault::Noise)
        } else {
            body(line)
        }?;
        if self.before == line {
            return Err(Fault::Duplicate);
        }
        self.before.clear();
        self.before.extend_from_slice(line);
        let text = std::str::from_utf8(line).map_err(|_| Fault::Noise)?;
        let said = said(body, text, self.second)?;
        match said {
            Said::Fix(fix) => {
                if self.fixed.is_some_and(|fixed| fix.at <= fixed) {
                    return Err(Fault::Late);
                }
                self.fixed = Some(fix.at);
                self.begin(fix.at);
            }
            Said::Place(at, _) => {
                if self.placed.is_some_and(|placed| at <= placed) {
                    return Err(Fault::Late);
                }
                self.placed = Some(at);
                if self.second.is_none_or(|second| at > second) {
                    self.begin(at);
                }
            }
            Said::Void(at) => {
                if self.second.is_none_or(|second| at > second) {
                    self.begin(at);
                }
                return Err(Fault::VoidFix);
            }
            Said::Ground(..) => self.came_without_time(text),
            _ => {}
        }
        Ok(Heard {
            said,
            second: self.second,
        })
    }

    fn begin(&mut self, second: Timestamp) {
        if self.second != Some(second) {
            self.came.clear();
        }
        self.second = Some(second);
    }

    /// A damaged line of a receiver still tells that its second has begun.
    fn pass_time(&mut self, line: &[u8]) {
        let (Some(time), Some(known)) = (clock_of(line), self.second) else {
            return;
        };
        let ahead = |then: &Timestamp| *then > known && then.duration_since(known) <= FORWARD;
        if let Some(then) = near(time, known).filter(ahead) {
            self.begin(then);
        }
    }

    /// A receiver says its speed once a second: said again, the next second has begun, though its time was lost.
    fn came_without_time(&mut self, text: &str) {
        let kind = [text.as_bytes()[3], text.as_bytes()[4], text.as_bytes()[5]];
        if self.came.contains(&kind) {
            let next = self
                .second
                .and_then(|second| second.checked_add(SignedDuration::from_secs(1)).ok());
            if let Some(next) = next {
                self.begin(next);
            }
        }
        self.came.push(kind);
    }
}
