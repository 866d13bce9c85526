use super::judge::Judge;
use super::school::WeightSchool;
use crate::bench::{Stocked, fits};
use crate::blade::{Blade, Family};
use crate::error::Error;
use crate::evidence::Record;
use crate::line::LineSetup;
use crate::rig::{
    AttractorStyle, Bait, BodyShape, Finish, HookStyle, Kind, Part, Piece, Rig, Stack, What,
};
use crate::units::Metres;
use std::collections::HashMap;
use std::sync::Arc;

/// A rig that could go out: made up, or buildable out of the box.
#[derive(Debug, Clone, PartialEq)]
pub struct Candidate {
    /// What it is called; ties are broken by it.
    pub name: String,
    /// The rig.
    pub rig: Rig,
    /// The set-up it goes on.
    pub setup: Arc<LineSetup>,
    /// How it stands in the box.
    pub stand: Stand,
    /// What the log says of it.
    pub record: Record,
}

impl Candidate {
    /// A rig that lies made up, and that the log says nothing of.
    pub fn made_up(rig: Rig, setup: LineSetup) -> Self {
        Self {
            name: rig.name.clone(),
            rig,
            setup: Arc::new(setup),
            stand: Stand::MadeUp(1),
            record: Record::default(),
        }
    }
}

/// How a rig stands in the box.
#[derive(Debug, Clone, PartialEq)]
pub enum Stand {
    /// So many lie made up.
    MadeUp(u32),
    /// It can be built, with these parts changed from the rig whose name it bears.
    Buildable(Vec<Part>),
    /// It cannot: a part runs short.
    Short(Box<Shortage>),
}

/// A part that does not suffice.
#[derive(Debug, Clone, PartialEq)]
pub struct Shortage {
    /// Which.
    pub part: Part,
    /// How many are needed.
    pub needs: u32,
    /// How many are left.
    pub left: f64,
}

impl Stand {
    /// How a rig stands: made up, buildable, or short of a part, by what is left of what its pieces take. Bait is bought fresh, line
    /// and wire are on the spool.
    pub fn of(stack: &Stack, made_up: u32, left_of: impl Fn(&Piece) -> f64) -> Self {
        if made_up > 0 {
            return Self::MadeUp(made_up);
        }
        for (place, piece) in stack.pieces.iter().enumerate() {
            if piece.part.bait().is_some() {
                continue;
            }
            let same = |other: &Piece| match piece.stock {
                Some(_) => other.stock == piece.stock,
                None => other.stock.is_none() && other.part == piece.part,
            };
            // Each kind of part is counted once, where it comes first.
            if stack.pieces[..place].iter().any(same) {
                continue;
            }
            let needs: u32 = stack
                .pieces
                .iter()
                .filter(|other| same(other))
                .map(|other| u32::from(other.count))
                .sum();
            let left = left_of(piece);
            if left < f64::from(needs) {
                return Self::Short(Box::new(Shortage {
                    part: piece.part,
                    needs,
                    left,
                }));
            }
        }
        Self::Buildable(Vec::new())
    }
}

/// What a judgement reads off a rig, once.
#[derive(Debug, Clone, Copy)]
pub(super) struct Traits {
    pub kind: Kind,
    pub blade: Option<Blade>,
    pub finish: Finish,
    pub back: Option<Finish>,
    pub blades: u8,
    pub hooks: u8,
    /// Points of the hooks: three of a treble.
    pub points: u8,
    pub treble: bool,
    pub lead: bool,
    pub bait: Option<Bait>,
    pub trailing: Metres,
    pub attractor: Option<AttractorStyle>,
    pub body: Option<BodyShape>,
    pub leader_lb: f64,
}

impl Traits {
    pub fn of(candidate: &Candidate) -> Self {
        let rig = &candidate.rig;
        let stack = rig.stack();
        let mut traits = Self {
            kind: rig.kind(),
            blade: rig.front_blade().map(|(blade, _)| blade),
            finish: rig.finish(),
            back: None,
            blades: 0,
            hooks: 0,
            points: 0,
            treble: false,
            lead: false,
            bait: None,
            trailing: Metres(0.0),
            attractor: None,
            body: None,
            leader_lb: 0.0,
        };
        for piece in &stack.pieces {
            traits.read(piece, stack.built_length(piece));
        }
        traits.lead |= stack.has_lead() || candidate.setup.weight.is_some_and(|w| w.is_lead());
        let on_rig = stack.mount.part().line();
        let leader = on_rig.unwrap_or(candidate.setup.leader);
        traits.leader_lb = f64::from(leader.test_lb);
        traits
    }

    fn read(&mut self, piece: &Piece, length: Metres) {
        match piece.part.what() {
            What::Blade(_) => {
                self.blades += piece.count;
                self.back = self.back.or(piece.part.back);
            }
            What::Hook(style) => {
                self.hooks += piece.count;
                let each = if style == HookStyle::Treble { 3 } else { 1 };
                self.points = self.points.saturating_add(piece.count.saturating_mul(each));
                self.treble |= style == HookStyle::Treble;
            }
            What::Bait(bait) => {
                self.bait = Some(bait);
                self.trails(length);
            }
            What::Dressing(dressing) if dressing.is_skirt() => self.trails(length),
            What::Attractor(style) => self.attractor = Some(style),
            What::Body(shape) => self.body = Some(shape),
            _ => {}
        }
    }

    fn trails(&mut self, length: Metres) {
        if length > self.trailing {
            self.trailing = length;
        }
    }

    /// Whether it is a spinner with a body of its own.
    pub fn is_inline(&self) -> bool {
        self.kind.has_body()
    }

    /// Where an inline spinner carries its weight.
    pub fn weight(&self) -> Option<WeightSchool> {
        if !self.is_inline() {
            return (self.kind == Kind::LeaderSquid || self.kind == Kind::TrollingWire)
                .then_some(WeightSchool::UpTheLine);
        }
        match self.body {
            Some(BodyShape::TailWeight) => Some(WeightSchool::Tail),
            Some(_) => Some(WeightSchool::Front),
            None => Some(WeightSchool::UpTheLine),
        }
    }
}

/// Families that practice hangs on a kind of rig (common practice, no source).
fn families(kind: Kind) -> &'static [Family] {
    use Family::{Colorado, French, HardWing, HatchetCut, Indiana, MagnumWillow, SoftWing, Willow};
    match kind {
        Kind::CrawlerHarness | Kind::Attractor => &[Colorado, Indiana, HatchetCut, Willow],
        // A pair of spoons is none: a spoon goes on alone, by hand on the bench.
        Kind::FastHarness => &[Willow],
        Kind::WingWorm => &[SoftWing, HardWing],
        Kind::FlasherFly => &[SoftWing, HardWing, Indiana, Colorado, MagnumWillow],
        Kind::BaitSpinner => &[SoftWing, HardWing, Colorado, Indiana],
        Kind::LeaderSquid => &[HatchetCut, Indiana, French, Colorado],
        Kind::RingBead => &[French, Indiana, SoftWing, Willow],
        Kind::SalmonWire => &[MagnumWillow, HatchetCut, Indiana],
        Kind::InlineTorpedo | Kind::InlineBell | Kind::TailWeighted | Kind::TrollingWire => {
            &[French, Indiana, Willow]
        }
        Kind::BareHook => &[],
    }
}

/// The rigs that come of one when its blade is swapped for another of the box, with a clevis to carry it
/// where the one on it does not: at most two parts changed.
///
/// # Errors
/// [`Error`] of a rig that cannot be.
pub fn variants(base: &Candidate, stock: &[Stocked]) -> Result<Vec<Candidate>, Error> {
    if matches!(base.stand, Stand::Short(_)) {
        return Ok(Vec::new());
    }
    let stack = base.rig.stack();
    let places: Vec<usize> = stack.blades().map(|(at, _, _)| at).collect();
    let Some(&front) = places.first() else {
        return Ok(Vec::new());
    };
    let now = stack.pieces[front];
    let mut made = Vec::new();
    for stocked in stock {
        let fit = match stocked.part.what() {
            What::Blade(family) => families(stack.kind).contains(&family),
            _ => false,
        };
        if !fit
            || !stocked.has(places.len() as u8 * now.count)
            || is_alike(&stocked.part, &now.part)
        {
            continue;
        }
        let Some((stack, mut changes)) = swapped(stack, &places, stocked, stock) else {
            continue;
        };
        changes.insert(0, stocked.part);
        let mut rig = Rig::new(base.rig.name.clone(), stack)?;
        rig.observed_moment = base.rig.observed_moment;
        made.push(Candidate {
            name: format!("{}, {}", base.name, swap_name(&stocked.part)),
            rig,
            setup: Arc::clone(&base.setup),
            stand: Stand::Buildable(changes),
            // Another blade is another rig: its log begins anew.
            record: Record::default(),
        });
    }
    Ok(made)
}

/// What of a large box is worth swapping in: each blade once and of those no more than so many, the best seen first, and each clevis
/// once. All of a smaller box.
pub fn worth_swapping(judge: &Judge<'_>, stock: &[Stocked], most: usize) -> Vec<Stocked> {
    let of = |is: fn(What) -> bool| {
        stock
            .iter()
            .filter(move |one| is(one.part.what()) && one.left > 0.0)
    };
    let blades = once_each(of(|what| matches!(what, What::Blade(_))));
    if blades.len() <= most {
        return stock.to_vec();
    }
    let mut seen: HashMap<(Finish, Option<Finish>), f64> = HashMap::new();
    let mut ranked: Vec<(f64, Stocked)> = blades
        .into_iter()
        .map(|blade| {
            let finish = (blade.part.finish, blade.part.back);
            let far = *seen
                .entry(finish)
                .or_insert_with(|| judge.seen_from(finish));
            (far, blade)
        })
        .collect();
    ranked.sort_by(|a, b| b.0.total_cmp(&a.0));
    ranked.truncate(most);
    let clevises = once_each(of(|what| matches!(what, What::Clevis(_))));
    ranked
        .into_iter()
        .map(|(_, blade)| blade)
        .chain(clevises)
        .collect()
}

/// Each part once, of alike ones the one with most left.
fn once_each<'a>(stock: impl Iterator<Item = &'a Stocked>) -> Vec<Stocked> {
    let mut places: HashMap<String, usize> = HashMap::new();
    let mut once: Vec<Stocked> = Vec::new();
    for one in stock {
        let part = &one.part;
        let key = format!(
            "{:?} {} {:?} {:?}",
            part.what(),
            part.size_word(),
            part.finish,
            part.back
        );
        match places.get(&key) {
            Some(&at) if once[at].left >= one.left => {}
            Some(&at) => once[at] = *one,
            None => {
                places.insert(key, once.len());
                once.push(*one);
            }
        }
    }
    once
}

/// What tells variants of a rig apart.
fn swap_name(blade: &Part) -> String {
    let side = |finish: Finish| {
        let hammered = if finish.hammered { "hammered " } else { "" };
        let over = finish
            .over
            .map_or_else(String::new, |over| format!(" under {}", over.key()));
        format!("{hammered}{}{over}", finish.colour.name())
    };
    let back = blade
        .back
        .map_or_else(String::new, |back| format!(" backed {}", side(back)));
    let (_, family) = blade.what().keys();
    format!(
        "{family} {} {}{back}",
        blade.size_word(),
        side(blade.finish)
    )
}

fn is_alike(a: &Part, b: &Part) -> bool {
    a.what() == b.what() && a.is_same_size(b) && a.finish == b.finish && a.back == b.back
}

/// A stack with every blade changed, and the clevises with it where they must be.
fn swapped(
    stack: &Stack,
    places: &[usize],
    blade: &Stocked,
    stock: &[Stocked],
) -> Option<(Stack, Vec<Part>)> {
    let mut next = stack.clone();
    let mut changes = Vec::new();
    for &at in places {
        next.pieces[at] = blade.piece(next.pieces[at].count);
        if fits(&next, at, &blade.part) {
            continue;
        }
        // The clevis ahead does not carry it: another one of its style may.
        let ahead = at
            .checked_sub(1)
            .filter(|ahead| matches!(next.pieces[*ahead].part.what(), What::Clevis(_)))?;
        let what = next.pieces[ahead].part.what();
        let clevis = stock.iter().find(|stocked| {
            stocked.part.what() == what
                && stocked.has(places.len() as u8)
                && fits(&next, ahead, &stocked.part)
        })?;
        next.pieces[ahead] = clevis.piece(1);
        if changes.is_empty() {
            changes.push(clevis.part);
        }
        if !fits(&next, at, &blade.part) {
            return None;
        }
    }
    Some((next, changes))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::bench::{Level, checks, left_of, starting};
    use crate::fish::Fish;
    use crate::ids::PartId;
    use crate::rig::{ClevisStyle, Colour};

    fn stocked(id: i64, what: What, size: f64, colour: Colour, left: f64) -> Stocked {
        Stocked {
            id: PartId(id),
            part: Part::new(what, size, Finish::plain(colour)).unwrap(),
            left,
        }
    }

    fn harness(made_up: u32, stock: &[Stocked]) -> Candidate {
        let kind = Kind::CrawlerHarness;
        let stack = starting(kind, Fish::Walleye, kind.usual_hook_size(), &[]).unwrap();
        Candidate {
            name: "harness".into(),
            stand: Stand::of(&stack, made_up, |piece| left_of(stock, piece)),
            rig: Rig::new("harness", stack).unwrap(),
            setup: Arc::new(LineSetup::usual().unwrap()),
            record: Record::default(),
        }
    }

    #[test]
    fn a_rig_whose_parts_are_not_there_is_short() {
        let short = harness(0, &[]);
        assert!(matches!(short.stand, Stand::Short(_)), "{:?}", short.stand);
        assert_eq!(harness(2, &[]).stand, Stand::MadeUp(2));
        // With every part in the box it can be built.
        let pieces = &short.rig.stack().pieces;
        let plenty: Vec<Stocked> = pieces
            .iter()
            .enumerate()
            .map(|(id, piece)| Stocked {
                id: PartId(id as i64),
                part: piece.part,
                left: 50.0,
            })
            .collect();
        assert_eq!(harness(0, &plenty).stand, Stand::Buildable(Vec::new()));
    }

    #[test]
    fn a_variant_changes_two_parts_at_most_and_is_sound() {
        let stock = [
            stocked(1, What::Blade(Family::Indiana), 4.0, Colour::Copper, 3.0),
            stocked(2, What::Blade(Family::Colorado), 1.0, Colour::Orange, 3.0),
            stocked(
                3,
                What::Clevis(ClevisStyle::QuickChange),
                1.0,
                Colour::Nickel,
                3.0,
            ),
            stocked(
                4,
                What::Clevis(ClevisStyle::Stirrup),
                1.0,
                Colour::Nickel,
                3.0,
            ),
            stocked(5, What::Blade(Family::SoftWing), 1.5, Colour::Pink, 3.0),
            stocked(6, What::Blade(Family::Indiana), 4.0, Colour::Brass, 0.0),
        ];
        let base = harness(1, &stock);
        let made = variants(&base, &stock).unwrap();
        // Not the wing, which is no harness blade, and not the blade of which none is left.
        assert_eq!(made.len(), 2, "{made:?}");
        for variant in &made {
            let Stand::Buildable(changes) = &variant.stand else {
                panic!("{:?}", variant.stand);
            };
            assert!((1..=2).contains(&changes.len()));
            let front = variant.rig.stack().blades().next().unwrap().0;
            assert!(fits(variant.rig.stack(), front, &changes[0]));
            let found = checks(variant.rig.stack(), &stock);
            assert!(
                !found
                    .checks
                    .iter()
                    .any(|check| check.level == Level::Fail && check.rule.key().contains("clevis")),
                "{found:?}"
            );
        }
        let changed = |variant: &Candidate| match &variant.stand {
            Stand::Buildable(changes) => changes.len(),
            _ => 0,
        };
        assert_eq!(changed(&made[0]), 1);
        // A number 1 blade needs the small clevis.
        assert_eq!(changed(&made[1]), 2);
    }

    #[test]
    fn a_rig_that_cannot_be_built_has_no_variants() {
        let stock = [stocked(
            1,
            What::Blade(Family::Indiana),
            4.0,
            Colour::Copper,
            3.0,
        )];
        assert!(variants(&harness(0, &[]), &stock).unwrap().is_empty());
    }
}
