//! What names a record in the data file; the boat book hands them out.

macro_rules! ids {
    ($($(#[$doc:meta])* $name:ident)*) => { $(
        $(#[$doc])*
        #[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
        pub struct $name(pub i64);
    )* };
}

ids! {
    /// Names a water in the data file.
    WaterId
    /// Names a local rule in the data file.
    RuleId
    /// Names a rig in the data file.
    RigId
    /// Names a part of the box.
    PartId
    /// Names a made-up rig of the box.
    MadeId
    /// Names something that was done with the box.
    DeedId
    /// Names a line set-up in the data file.
    SetupId
    /// Names a spread in the data file.
    SpreadId
    /// Names a plug or spoon in the data file.
    LureId
    /// Names a dunk test in the data file.
    DunkId
    /// Names a bottom touch in the data file.
    TouchId
    /// Names an outing in the data file.
    OutingId
    /// Names a temperature reading in the data file.
    ReadingId
    /// Names an event in the data file.
    EventId
    /// Names a pass in the data file.
    PassId
    /// Names a track in the data file.
    TrackId
    /// Names a spot in the data file.
    SpotId
    /// Names an experiment in the data file.
    ExperimentId
    /// Names a run of a river in the data file.
    RunId
    /// Names a cast in the data file.
    CastId
    /// Names a fish that was seen on the sounder in the data file.
    FishMarkId
}
