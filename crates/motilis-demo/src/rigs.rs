use crate::IN_CATALOGUE;
use crate::setups::Setups;
use crate::tray::Tray;
use motilis_core::bench::{mended, starting};
use motilis_core::blade::Family;
use motilis_core::book::{RigId, SetupId};
use motilis_core::fish::Fish;
use motilis_core::line::LineSetup;
use motilis_core::rig::{
    BARE, Bait, BeadStyle, BodyShape, ClevisStyle, Colour, Dressing, Edit, Finish, HookSize,
    HookStyle, Kind, Mount, Piece, Rig, Setting, Stack, SwivelStyle, What,
};
use motilis_core::tackle::LineMaterial;
use motilis_core::units::{FOOT, INCH, MILLIMETRE};
use motilis_store::{Connection, Error, rigs};

/// A rig of the box with the rod it goes on.
pub struct DemoRig {
    pub id: RigId,
    pub rig: Rig,
    pub setup: SetupId,
    pub line: LineSetup,
}

/// A board with the rod it goes on.
struct Plan<'a> {
    name: &'static str,
    stack: Stack,
    rod: &'a (SetupId, LineSetup),
}

/// Tackle out of the tray in short words.
struct Hand<'a> {
    tray: &'a Tray,
}

impl Hand<'_> {
    fn smooth(&self, family: Family, number: f64, colour: Colour) -> Piece {
        self.tray
            .take(What::Blade(family), number, Finish::plain(colour), 1)
    }

    fn hammered(&self, family: Family, number: f64, colour: Colour) -> Piece {
        self.tray
            .take(What::Blade(family), number, Finish::hammered(colour), 1)
    }

    fn beads(&self, count: u8, millimetres: f64, colour: Colour) -> Piece {
        let finish = Finish::plain(colour);
        self.tray
            .take(What::Bead(BeadStyle::Round), millimetres, finish, count)
    }

    fn clevis(&self, style: ClevisStyle, number: f64) -> Piece {
        self.tray.take(What::Clevis(style), number, BARE, 1)
    }

    fn stirrup(&self, number: f64) -> Piece {
        self.clevis(ClevisStyle::Stirrup, number)
    }

    /// A 4 mm brass bead, as wire spinners turn on.
    fn bearing(&self) -> Piece {
        self.beads(1, 4.0, Colour::Nickel)
    }

    /// A 4 mm plastic bead, as harnesses turn on.
    fn small_bead(&self) -> Piece {
        self.beads(1, 4.0, Colour::Red)
    }

    fn hook(&self, style: HookStyle, code: f64, count: u8) -> Piece {
        self.tray.take(What::Hook(style), code, BARE, count)
    }

    fn swivel(&self) -> Piece {
        self.tray
            .take(What::Swivel(SwivelStyle::Barrel), 14.0, BARE, 1)
    }

    fn dressing(&self, dressing: Dressing, colour: Colour) -> Piece {
        let what = What::Dressing(dressing);
        self.tray
            .take(what, what.sizes()[0], Finish::plain(colour), 1)
    }

    fn body(&self, shape: BodyShape, grams: f64) -> Piece {
        self.tray
            .take(What::Body(shape), grams, Finish::plain(Colour::Brass), 1)
    }

    fn bait(&self, bait: Bait) -> Piece {
        let what = What::Bait(bait);
        self.tray
            .take(what, what.sizes()[0], Finish::plain(Colour::Pink), 1)
    }

    fn spool(&self, what: What, size: f64) -> Mount {
        let piece = self.tray.take(what, size, BARE, 1);
        Mount::new(piece.part, piece.stock).expect(IN_CATALOGUE)
    }

    fn nylon(&self, pounds: f64) -> Mount {
        self.spool(What::Line(LineMaterial::Nylon), pounds)
    }

    /// A rig of its parts with every mend made, so that the checks are good.
    fn sound(&self, kind: Kind, mount: Mount, pieces: Vec<Piece>) -> Stack {
        mended(rough(kind, mount, pieces), &self.tray.stock).expect(IN_CATALOGUE)
    }

    /// What the bench starts a kind with.
    fn started(&self, kind: Kind, fish: Fish) -> Stack {
        self.on_hook(kind, fish, kind.usual_hook_size())
    }

    fn on_hook(&self, kind: Kind, fish: Fish, hook: HookSize) -> Stack {
        starting(kind, fish, hook, &self.tray.stock).expect(IN_CATALOGUE)
    }

    fn harness(&self, clevis: f64, blade: Piece, colour: Colour, code: f64) -> Vec<Piece> {
        vec![
            self.swivel(),
            self.stirrup(clevis),
            blade,
            self.small_bead(),
            self.beads(5, 6.0, colour),
            self.hook(HookStyle::Octopus, code, 2),
            self.bait(Bait::Crawler),
        ]
    }

    fn single(&self, front: Vec<Piece>, colour: Colour, hook: Piece, bait: Bait) -> Vec<Piece> {
        let mut pieces = vec![self.swivel()];
        pieces.extend(front);
        pieces.extend([self.beads(4, 5.0, colour), hook, self.bait(bait)]);
        pieces
    }
}

/// A stack with another blade of its size.
fn with_blade(stack: Stack, blade: &Piece) -> Stack {
    let edits: Vec<Edit> = stack
        .blades()
        .map(|(at, ..)| Edit::Replace { at, piece: *blade })
        .collect();
    stack.edited_by(&edits).expect(IN_CATALOGUE)
}

/// A rig of its parts as they are.
fn rough(kind: Kind, mount: Mount, pieces: Vec<Piece>) -> Stack {
    let mut stack = Stack::empty(kind, mount);
    stack.pieces = pieces;
    stack
}

/// The rigs the crew fishes, each sound.
#[allow(
    clippy::too_many_lines,
    reason = "a list of rigs, as long as the box is full"
)]
fn fished<'a>(hand: &Hand<'_>, rods: &'a Setups) -> Vec<Plan<'a>> {
    use Colour::{Brass, Chartreuse, Copper, Nickel, Orange, Pink, Purple, White};
    use HookStyle::{BentShank, Octopus, Siwash, Treble};
    use Kind::{
        CrawlerHarness, FastHarness, LeaderSquid, RingBead, SalmonWire, TailWeighted, TrollingWire,
        WingWorm,
    };
    let plan = |name, stack, rod| Plan { name, stack, rod };
    let (light, heavy) = (&rods.light_bouncer, &rods.heavy_bouncer);
    let harness = |clevis, blade, colour, code, pounds| {
        let pieces = hand.harness(clevis, blade, colour, code);
        hand.sound(CrawlerHarness, hand.nylon(pounds), pieces)
    };
    let willow = hand.smooth(Family::Willow, 4.0, Nickel);
    let thin_french = hand.smooth(Family::French, 1.0, Copper);
    vec![
        plan(
            "Tamarin two-hook",
            harness(
                2.0,
                hand.hammered(Family::Colorado, 4.0, Brass),
                Chartreuse,
                2.0,
                17.0,
            ),
            light,
        ),
        plan(
            "Big thumper",
            harness(
                3.0,
                hand.smooth(Family::Colorado, 5.0, Chartreuse),
                Orange,
                2.0,
                20.0,
            ),
            heavy,
        ),
        plan(
            "Indiana two-hook",
            harness(
                2.0,
                hand.smooth(Family::Indiana, 4.0, Orange),
                Orange,
                4.0,
                17.0,
            ),
            light,
        ),
        plan(
            "Indiana single",
            hand.sound(
                CrawlerHarness,
                hand.nylon(12.0),
                hand.single(
                    vec![hand.stirrup(2.0), hand.smooth(Family::Indiana, 3.0, Copper)],
                    Pink,
                    hand.hook(Octopus, 2.0, 1),
                    Bait::HalfCrawler,
                ),
            ),
            light,
        ),
        plan(
            "Leech single",
            hand.sound(
                CrawlerHarness,
                hand.nylon(12.0),
                hand.single(
                    vec![
                        hand.stirrup(2.0),
                        hand.hammered(Family::Colorado, 3.0, Brass),
                    ],
                    White,
                    hand.hook(Octopus, 2.0, 1),
                    Bait::Leech,
                ),
            ),
            light,
        ),
        plan(
            "Double willow",
            hand.sound(
                FastHarness,
                hand.nylon(20.0),
                vec![
                    hand.swivel(),
                    hand.stirrup(2.0),
                    willow,
                    hand.small_bead(),
                    hand.beads(4, 5.0, White),
                    hand.stirrup(2.0),
                    willow,
                    hand.small_bead(),
                    hand.beads(6, 6.0, White),
                    hand.hook(Octopus, 2.0, 2),
                    hand.bait(Bait::Crawler),
                ],
            ),
            heavy,
        ),
        plan(
            "Slow wing",
            hand.sound(
                WingWorm,
                hand.nylon(10.0),
                hand.single(
                    vec![hand.smooth(Family::SoftWing, 1.5, Chartreuse)],
                    Chartreuse,
                    hand.hook(BentShank, 2.0, 1),
                    Bait::HalfCrawler,
                ),
            ),
            light,
        ),
        plan(
            "Little wing",
            hand.sound(
                WingWorm,
                hand.nylon(8.0),
                hand.single(
                    vec![hand.smooth(Family::SoftWing, 1.1, Pink)],
                    White,
                    hand.hook(BentShank, 4.0, 1),
                    Bait::HalfCrawler,
                ),
            ),
            light,
        ),
        plan(
            "Ring-bead rainbow",
            hand.sound(
                RingBead,
                hand.nylon(6.0),
                vec![
                    hand.stirrup(1.0),
                    thin_french,
                    hand.beads(4, 4.0, Orange),
                    hand.hook(Octopus, 6.0, 2),
                    hand.bait(Bait::WormPiece),
                ],
            ),
            &rods.lead_core,
        ),
        plan(
            "Ring-bead wing",
            hand.sound(
                RingBead,
                hand.nylon(6.0),
                vec![
                    hand.smooth(Family::SoftWing, 0.8, Pink),
                    hand.beads(4, 4.0, Pink),
                    hand.hook(Octopus, 6.0, 2),
                    hand.bait(Bait::WormPiece),
                ],
            ),
            &rods.board,
        ),
        plan(
            "Wire trout",
            hand.sound(
                TrollingWire,
                hand.spool(What::Wire, 30.0),
                vec![
                    hand.stirrup(1.0),
                    hand.smooth(Family::French, 2.0, Nickel),
                    hand.bearing(),
                    hand.beads(3, 5.0, Orange),
                    hand.hook(Treble, 6.0, 1),
                ],
            ),
            &rods.lead_core,
        ),
        plan(
            "Tail weight",
            hand.sound(
                TailWeighted,
                hand.spool(What::Wire, 30.0),
                vec![
                    hand.stirrup(2.0),
                    hand.hammered(Family::French, 3.0, Brass),
                    hand.bearing(),
                    hand.beads(2, 6.0, Purple),
                    hand.body(BodyShape::TailWeight, 4.0),
                    hand.dressing(Dressing::SiliconeSkirt, Purple),
                    hand.hook(Treble, 4.0, 1),
                ],
            ),
            &rods.board,
        ),
        plan(
            "Orrin magnum",
            hand.sound(
                SalmonWire,
                hand.spool(What::Wire, 35.0),
                vec![
                    hand.stirrup(3.0),
                    hand.smooth(Family::MagnumWillow, 5.0, White),
                    hand.bearing(),
                    hand.beads(4, 8.0, Chartreuse),
                    hand.dressing(Dressing::Squid, Chartreuse),
                    hand.dressing(Dressing::Tinsel, Pink),
                    hand.hook(Siwash, -2.0, 1),
                ],
            ),
            &rods.downrigger,
        ),
        plan(
            "Squid on a leader",
            hand.sound(
                LeaderSquid,
                hand.nylon(30.0),
                vec![
                    hand.swivel(),
                    hand.stirrup(2.0),
                    hand.smooth(Family::HatchetCut, 4.0, Orange),
                    hand.small_bead(),
                    hand.beads(3, 6.0, Orange),
                    hand.dressing(Dressing::Squid, Pink),
                    hand.hook(Siwash, -3.0, 2),
                ],
            ),
            &rods.diver,
        ),
    ]
}

/// What the crew tied over the winter, as the bench starts it.
fn winter<'a>(hand: &Hand<'_>, rods: &'a Setups) -> Vec<Plan<'a>> {
    use Fish::{
        Chinook, Coho, LakeTrout, RainbowTrout, SmallmouthBass, Steelhead, Walleye, YellowPerch,
    };
    let size = |code| HookSize::from_code(code).expect(IN_CATALOGUE);
    let plan = |name, stack, rod| Plan { name, stack, rod };
    vec![
        plan(
            "Cassel torpedo",
            hand.started(Kind::InlineTorpedo, Steelhead),
            &rods.board,
        ),
        plan(
            "Cassel bell",
            hand.started(Kind::InlineBell, SmallmouthBass),
            &rods.board,
        ),
        plan(
            "Small torpedo",
            hand.on_hook(Kind::InlineTorpedo, RainbowTrout, size(6)),
            &rods.board,
        ),
        plan(
            "Ruddered wire",
            hand.started(Kind::TrollingWire, LakeTrout),
            &rods.lead_core,
        ),
        plan(
            "Orrin small magnum",
            hand.started(Kind::SalmonWire, Coho),
            &rods.downrigger,
        ),
        plan(
            "Orrin deep magnum",
            hand.on_hook(Kind::SalmonWire, Chinook, size(-3)),
            &rods.downrigger,
        ),
        plan(
            "Flasher and fly",
            hand.started(Kind::FlasherFly, Chinook),
            &rods.downrigger,
        ),
        plan(
            "Capped bait",
            hand.started(Kind::BaitSpinner, Chinook),
            &rods.downrigger,
        ),
        plan(
            "Bare leech",
            hand.started(Kind::BareHook, Walleye),
            &rods.light_bouncer,
        ),
        plan(
            "Dodger Colorado",
            hand.started(Kind::Attractor, LakeTrout),
            &rods.downrigger,
        ),
        plan(
            "Perch harness",
            hand.on_hook(Kind::CrawlerHarness, YellowPerch, size(6)),
            &rods.light_bouncer,
        ),
        plan(
            "Smallmouth harness",
            with_blade(
                hand.started(Kind::CrawlerHarness, SmallmouthBass),
                &hand.smooth(Family::Colorado, 4.0, Colour::Tiger),
            ),
            &rods.light_bouncer,
        ),
        plan(
            "Quick-change two-hook",
            quick_change(hand),
            &rods.light_bouncer,
        ),
        plan(
            "Copper squid",
            hand.started(Kind::LeaderSquid, Steelhead),
            &rods.diver,
        ),
        plan(
            "Steelhead wing",
            hand.started(Kind::WingWorm, Steelhead),
            &rods.light_bouncer,
        ),
        plan(
            "Landlocked ring bead",
            hand.started(Kind::RingBead, Fish::LandlockedSockeye),
            &rods.lead_core,
        ),
        plan(
            "Fast spare",
            hand.started(Kind::FastHarness, Walleye),
            &rods.heavy_bouncer,
        ),
        plan(
            "Second tail weight",
            hand.started(Kind::TailWeighted, Steelhead),
            &rods.board,
        ),
    ]
}

fn quick_change(hand: &Hand<'_>) -> Stack {
    let mut pieces = hand.harness(
        2.0,
        hand.smooth(Family::Colorado, 4.0, Colour::White),
        Colour::Pink,
        2.0,
    );
    pieces[1] = hand.clevis(ClevisStyle::QuickChange, 2.0);
    hand.sound(Kind::CrawlerHarness, hand.nylon(17.0), pieces)
}

/// Rigs that something is wrong with, each with another thing: the checks must find it.
fn faulty<'a>(hand: &Hand<'_>, rods: &'a Setups) -> Vec<Plan<'a>> {
    use Colour::{Brass, Chartreuse, Glow, Nickel, Orange, Pink, Purple, Red};
    let plan = |name, stack, rod| Plan { name, stack, rod };
    let set = |stack: Stack, setting, value| {
        stack
            .edited(&Edit::Set(setting, value))
            .expect(IN_CATALOGUE)
    };
    let harness = |clevis, blade, colour| {
        rough(
            Kind::CrawlerHarness,
            hand.nylon(17.0),
            hand.harness(clevis, blade, colour, 2.0),
        )
    };
    // Two beads short: the blade reaches over the front hook.
    let mut short = harness(2.0, hand.smooth(Family::Colorado, 4.0, Orange), Pink);
    short.pieces[4] = hand.beads(2, 6.0, Pink);
    // A clevis too small for its blade, and too short a leader.
    let clevis = set(
        harness(2.0, hand.smooth(Family::Colorado, 6.0, Nickel), Red),
        Setting::Finished,
        (2.0 * FOOT).0,
    );
    // Beads with wide holes slide over the hook's eye.
    let mut wide = harness(1.0, hand.smooth(Family::French, 2.0, Brass), Chartreuse);
    wide.pieces[4] = hand.beads(3, 6.0, Glow);
    wide.pieces[5] = hand.hook(HookStyle::Octopus, 6.0, 2);
    // A skirt that swallows the bead before it.
    let swallow = rough(
        Kind::TailWeighted,
        hand.spool(What::Wire, 30.0),
        vec![
            hand.stirrup(2.0),
            hand.smooth(Family::French, 3.0, Nickel),
            hand.bearing(),
            hand.beads(5, 5.0, Purple),
            hand.dressing(Dressing::SiliconeSkirt, Colour::White),
            hand.hook(HookStyle::Siwash, 4.0, 1),
        ],
    );
    // Wire too thick for its beads, and a hook the blade shields.
    let thick = rough(
        Kind::TrollingWire,
        hand.spool(What::Wire, 40.0),
        vec![
            hand.stirrup(1.0),
            hand.smooth(Family::French, 2.0, Brass),
            hand.bearing(),
            hand.beads(4, 4.0, Red),
            hand.hook(HookStyle::Treble, 10.0, 1),
        ],
    );
    // The weight at the nose, and half an inch of free wire above the clevis.
    let nose = set(
        rough(
            Kind::InlineTorpedo,
            hand.spool(What::Wire, 30.0),
            vec![
                hand.body(BodyShape::Torpedo, 7.0),
                hand.stirrup(2.0),
                hand.smooth(Family::French, 3.0, Brass),
                hand.bearing(),
                hand.beads(4, 6.0, Orange),
                hand.hook(HookStyle::Treble, 4.0, 1),
            ],
        ),
        Setting::Clearance,
        (0.5 * INCH).0,
    );
    // Between the two kicks of a flasher, the hooks a hand apart.
    let kick = set(
        set(
            hand.started(Kind::FlasherFly, Fish::Coho),
            Setting::Finished,
            (28.0 * INCH).0,
        ),
        Setting::HookSpacing,
        (90.0 * MILLIMETRE).0,
    );
    // Too few beads before the cap, no bumper between the hooks.
    let mut cap = hand.started(Kind::BaitSpinner, Fish::Coho);
    cap.pieces
        .retain(|piece| !matches!(piece.part.what(), What::Bead(_)));
    let wing = cap
        .pieces
        .iter()
        .position(|piece| piece.part.blade().is_some())
        .unwrap_or(0);
    cap.pieces.insert(wing + 1, hand.beads(3, 6.0, Chartreuse));
    vec![
        plan("Two beads short", short, &rods.light_bouncer),
        plan("Tight clevis", clevis, &rods.heavy_bouncer),
        plan("Wide beads", wide, &rods.light_bouncer),
        plan("Swallowed bead", swallow, &rods.board),
        plan("Thick wire", thick, &rods.lead_core),
        plan("Nose weight", nose, &rods.board),
        plan("Wrong kick", kick, &rods.downrigger),
        plan("Cap too near", cap, &rods.downrigger),
    ]
}

/// Adds the forty boards; those the crew fishes come back, the first ones first.
pub fn add(connection: &Connection, rods: &Setups, tray: &Tray) -> Result<Vec<DemoRig>, Error> {
    let hand = Hand { tray };
    let mut demo = Vec::new();
    for plan in fished(&hand, rods) {
        let (setup, line) = plan.rod;
        let id = rigs::add_board(connection, plan.name, &plan.stack, *setup)?;
        demo.push(DemoRig {
            id,
            rig: Rig::new(plan.name, plan.stack).expect("what is fished has a blade and a hook"),
            setup: *setup,
            line: line.clone(),
        });
    }
    for plan in winter(&hand, rods).into_iter().chain(faulty(&hand, rods)) {
        rigs::add_board(connection, plan.name, &plan.stack, plan.rod.0)?;
    }
    Ok(demo)
}
