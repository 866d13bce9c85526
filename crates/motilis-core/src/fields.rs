//! The figures that people type, programs send and the file keeps: one row each, with every name it goes by.
//!
//! A figure that is asked for in two places has one row, so that both take the same. Names in JSON end in the SI unit,
//! as the columns of the file do; forms leave it out, for there the angler's units stand. What only a model knows, such
//! as a density, is bounded beside the model; the measures of a rig on the bench are
//! [`Setting`](crate::rig::Setting)s.

use crate::error::{Error, Range};

/// A figure by its names, with what it may be.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Field {
    /// Its name in a form.
    pub form: &'static str,
    /// Its name in JSON and in refusals, and its column where it is kept.
    pub key: &'static str,
    /// What it may be, SI.
    pub range: Range,
}

impl Field {
    /// Passes a figure on when it may be.
    ///
    /// # Errors
    /// [`Error::OutOfRange`] with the field's key; NaN never may be.
    pub fn check(&self, value: f64) -> Result<f64, Error> {
        self.range.check(self.key, value)
    }
}

macro_rules! fields {
    ($($(#[$doc:meta])+ $name:ident $form:literal $key:literal $range:expr;)+) => {
        $($(#[$doc])+ pub const $name: Field = Field { form: $form, key: $key, range: $range };)+

        /// Every row.
        pub const ALL: &[Field] = &[$($name),+];
    };
}

const MOVING: Range = Range::above(0.0, 4.5, "m/s", "above 0 and at most 4.5 m/s");
const DEEP: Range = Range::closed(0.3, 300.0, "m", "between 0.3 and 300 m");
const WITH_SURFACE: Range = Range::closed(0.0, 300.0, "m", "between 0 and 300 m");
const LET_OUT: Range = Range::closed(0.3, 600.0, "m", "between 0.3 and 600 m");
const DISC: Range = Range::closed(0.05, 40.0, "m", "between 0.05 and 40 m");
const PIECE: Range = Range::closed(0.0, 60.0, "m", "between 0 and 60 m");
const HEAVY: Range = Range::above(0.0, 20.0, "kg", "above 0 and at most 20 kg");
const OVER_GROUND: Range = Range::closed(0.0, 9.0, "m/s", "between 0 and 9 m/s");
const FLOWING: Range = Range::closed(-5.0, 5.0, "m/s", "between -5 and 5 m/s");
const ROSE: Range = Range::closed(0.0, 360.0, "°", "between 0 and 360°");
const CALIPER: Range = Range::above(0.0, 0.2, "m", "above 0 and at most 200 mm");
const MANY: Range = Range::closed(0.0, 100_000.0, "", "between 0 and 100 000");
const SLOT: Range = Range::closed(0.05, 2.0, "m", "between 0.05 and 2 m");

fields! {
    // Waters.
    /// Latitude, north positive.
    LATITUDE "latitude" "lat" Range::closed(-90.0, 90.0, "°", "between -90 and 90°");
    /// Longitude, east positive.
    LONGITUDE "longitude" "lon" Range::closed(-180.0, 180.0, "°", "between -180 and 180°");
    /// Depth at which a white disc is lost.
    CLARITY "clarity" "clarity_m" DISC;
    /// Depth at which a white blade is lost.
    BLADE_LOST "blade_lost" "blade_lost_m" DISC;

    // The day.
    /// Speed of a boat through the water, at rest too.
    SPEED "speed" "speed_mps" Range::closed(0.0, 4.5, "m/s", "between 0 and 4.5 m/s");
    /// Water temperature.
    TEMPERATURE "temperature" "temperature_c" Range::closed(-2.0, 40.0, "°C", "between -2 and 40 °C");
    /// Depth of the water.
    BOTTOM "bottom" "bottom_m" DEEP;
    /// Where the fish begin.
    FISH_FROM "fish_from" "fish_from_m" WITH_SURFACE;
    /// Where they end.
    FISH_TO "fish_to" "fish_to_m" WITH_SURFACE;
    /// Depth of the thermocline.
    THERMOCLINE "thermocline" "thermocline_m" DEEP;
    /// Depth at which rigs are wanted.
    WANTED_DEPTH "wanted_depth" "wanted_depth_m" DEEP;

    /// Depth at which a temperature was read.
    READING_DEPTH "reading_depth" "depth_m" WITH_SURFACE;
    /// A temperature read at a place.
    READING_TEMPERATURE "reading_temperature" "temperature_c" Range::closed(-2.0, 40.0, "°C", "between -2 and 40 °C");

    // The log.
    /// Length of a fish.
    FISH_LENGTH "length" "length_m" Range::closed(0.03, 2.5, "m", "between 0.03 and 2.5 m");
    /// Girth of a fish.
    FISH_GIRTH "girth" "girth_m" Range::closed(0.02, 2.0, "m", "between 0.02 and 2 m");
    /// What a scale says of a fish.
    FISH_WEIGHT "fish_weight" "weight_kg" Range::above(0.0, 80.0, "kg", "above 0 and at most 80 kg");
    /// How finely a fish is measured.
    FISH_STEP "step" "step_m" Range::closed(0.0, 0.05, "m", "between 0 and 0.05 m");
    /// Line or cable let out.
    OUT "out" "out_m" LET_OUT;
    /// Minutes a rod of an experiment fishes one way.
    SWAP_AFTER "swap_after" "swap_after_min" Range::closed(5.0, 240.0, "min", "between 5 and 240 min");
    /// Speed over ground at an entry.
    GROUND "ground" "ground_mps" Range::closed(0.0, 60.0, "m/s", "between 0 and 60 m/s");
    /// Course over ground at an entry.
    COURSE "course" "course_deg" ROSE;
    /// How far a spot reaches.
    SPOT_RADIUS "spot_radius" "radius_m" Range::closed(5.0, 5_000.0, "m", "between 5 and 5 000 m");
    /// Depth of the water at a spot.
    SPOT_DEPTH "spot_depth" "depth_m" DEEP;
    /// Depth a rig ran at.
    DEPTH "depth" "depth_m" WITH_SURFACE;

    // Rivers.
    /// Distance of a station from the bank.
    STATION_OFFSET "offset" "offset_m" Range::closed(0.0, 200.0, "m", "between 0 and 200 m");
    /// Depth of a run at a station.
    STATION_DEPTH "station_depth" "depth_m" Range::closed(0.05, 15.0, "m", "between 0.05 and 15 m");
    /// Speed of a run's surface at a station.
    STATION_SPEED "surface" "surface_mps" Range::closed(0.0, 4.0, "m/s", "between 0 and 4 m/s");
    /// Height of the tip over the water in a cast.
    CAST_TIP "cast_tip" "tip_height_m" Range::closed(0.0, 6.0, "m", "between 0 and 6 m over the water");
    /// How far a cast goes.
    CAST_DISTANCE "distance" "distance_m" Range::closed(2.0, 80.0, "m", "between 2 and 80 m");
    /// Seconds that a cast is followed.
    CAST_SECONDS "cast_seconds" "seconds" Range::above(0.0, 120.0, "s", "above 0 and at most 120 s");
    /// Seconds of an act.
    ACT_SECONDS "act_seconds" "seconds" Range::above(0.0, 120.0, "s", "above 0 and at most 120 s");
    /// Speed at which line is reeled in.
    CAST_REEL "cast_reel" "reel_mps" Range::closed(0.0, 3.0, "m/s", "between 0 (held) and 3 m/s; line cannot be paid out");

    /// Angle of a cast from straight downstream.
    CAST_ANGLE "cast_angle" "angle_deg" Range::closed(0.0, 180.0, "°", "between 0 (straight down) and 180° (straight up)");
    /// Seconds that a cast is let sink.
    SINK "sink" "sink_seconds" Range::closed(0.0, 30.0, "s", "between 0 and 30 s");
    /// Turns of the handle a second.
    HANDLE "handle" "turns_per_s" Range::closed(0.0, 5.0, "", "between 0 (held) and 5 turns a second");
    /// Seconds after which the tip goes up.
    LIFT "lift" "lift_seconds" Range::closed(0.0, 60.0, "s", "between 0 and 60 s");
    /// How far below the head of a run one stands.
    STAND_ALONG "stand_along" "stand_along_m" Range::closed(0.0, 500.0, "m", "between 0 and 500 m");
    /// How far out one stands.
    STAND "stand" "stand_m" Range::closed(0.0, 100.0, "m", "between 0 and 100 m");
    /// Length of a casting rod.
    ROD_LENGTH "rod_length" "rod_m" Range::closed(1.0, 5.0, "m", "between 1 and 5 m");
    /// The farthest cast.
    LONGEST_CAST "longest" "longest_m" Range::closed(4.0, 80.0, "m", "between 4 and 80 m");
    /// Line on a casting reel.
    ON_REEL "on_reel" "on_reel_m" Range::closed(10.0, 500.0, "m", "between 10 and 500 m");
    /// Line that a turn of a trolling reel lets out.
    REEL_TURN "reel_turn" "reel_turn_m" Range::closed(0.05, 1.5, "m", "between 0.05 and 1.5 m a turn");
    /// Line that a turn of the handle takes in.
    TAKE_UP "take_up" "take_up_m" Range::closed(0.2, 1.5, "m", "between 0.2 and 1.5 m a turn");
    /// From the head of a run to its tail-out.
    RUN_LENGTH "run_length" "length_m" Range::closed(3.0, 500.0, "m", "between 3 and 500 m");
    /// How high weed or wood stands over the bed.
    GROWTH "growth" "growth_m" Range::closed(0.0, 5.0, "m", "between 0 and 5 m");
    /// What a gauge says flows.
    DISCHARGE "discharge" "discharge_m3s" Range::above(0.0, 5_000.0, "m³/s", "above 0 and at most 5 000 m³/s");
    /// How far a leaf is timed.
    LEAF_WAY "leaf_way" "way_m" Range::closed(1.0, 100.0, "m", "between 1 and 100 m");
    /// For how long.
    LEAF_TIME "leaf_time" "time_seconds" Range::closed(1.0, 600.0, "s", "between 1 and 600 s");
    /// How far a mark lies below the head of its run.
    MARK_ALONG "mark_along" "along_m" Range::closed(0.0, 500.0, "m", "between 0 and 500 m");
    /// How far from the bank.
    MARK_ACROSS "mark_across" "across_m" Range::closed(0.0, 200.0, "m", "between 0 and 200 m");
    /// Shot up the line of a casting rod.
    SHOT "shot" "shot_kg" Range::closed(0.0, 0.05, "kg", "between 0 and 50 g");
    /// The leader behind it.
    SHOT_LEAD "shot_lead" "shot_lead_m" Range::closed(0.1, 3.0, "m", "between 0.1 and 3 m");
    /// How far a fish moves from its lie.
    LIE_REACH "lie_reach" "reach_m" Range::above(0.0, 5.0, "m", "above 0 and at most 5 m");
    /// A bumper's length.
    BUMPER "bumper" "bumper_m" Range::closed(0.0, 10.0, "m", "between 0 and 10 m");

    // Rules.
    /// How many of something a rule allows.
    RULE_COUNT "rule_count" "most" Range::closed(0.0, 100.0, "", "a whole number between 0 and 100");
    /// Lower end of a slot.
    SLOT_FROM "slot_from" "slot_from_m" SLOT;
    /// Its upper end.
    SLOT_TO "slot_to" "slot_to_m" SLOT;

    // Line set-ups and rods.
    /// Height of the rod tip.
    TIP "tip" "tip_height_m" Range::closed(0.0, 10.0, "m", "between 0 and 10 m");
    /// Mass of a downrigger's ball.
    BALL "ball" "ball_kg" HEAVY;
    /// From release to leader.
    DROP_BACK "drop_back" "drop_back_m" PIECE;
    /// From ball to release.
    ABOVE "above" "above_m" PIECE;
    /// Line on the reel.
    REEL "reel" "reel_m" Range::closed(1.0, 1_000.0, "m", "between 1 and 1 000 m");
    /// Length of a sinking line.
    CORE "core_length" "core_m" Range::above(0.0, 400.0, "m", "above 0 and at most 400 m");
    /// Mass of the weight.
    WEIGHT "weight" "weight_kg" HEAVY;
    /// From weight to leader.
    AHEAD "ahead" "ahead_m" PIECE;
    /// Leader between weight and rig.
    LEAD "lead" "lead_m" PIECE;
    /// Length of a rod.
    ROD "rod" "rod_m" Range::closed(0.5, 6.0, "m", "between 0.5 and 6 m");
    /// A board's distance from the boat.
    BOARD "board" "board_m" Range::closed(2.0, 80.0, "m", "between 2 and 80 m");
    /// Depth a rod's rig is wanted at.
    WANTED "wanted" "wanted_m" DEEP;

    // Spreads on their way.
    /// Speed of a spread: what does not move cannot be solved.
    TOWED "speed" "speed_mps" MOVING;
    /// Radius of a turn.
    TURN_RADIUS "radius" "radius_m" Range::closed(5.0, 2_000.0, "m", "between 5 and 2 000 m");
    /// Radius of the bends of a course.
    BEND_RADIUS "bend" "radius_m" Range::closed(5.0, 2_000.0, "m", "between 5 and 2 000 m");
    /// How long a course is run.
    SECONDS "seconds" "seconds" Range::closed(5.0, 3_600.0, "s", "between 5 and 3 600 s");
    /// The same as a form asks for it.
    MINUTES "minutes" "minutes" Range::closed(0.1, 60.0, "min", "between 0.1 and 60 min");
    /// Speed over ground one way.
    GROUND_UP "up" "ground_up_mps" OVER_GROUND;
    /// Speed over ground the other way.
    GROUND_DOWN "down" "ground_down_mps" OVER_GROUND;
    /// Speed of a current, whichever way.
    CURRENT "flow" "current_mps" Range::closed(0.0, 5.0, "m/s", "between 0 and 5 m/s");
    /// Its part along the run.
    CURRENT_ALONG "along" "current_along_mps" FLOWING;
    /// Its part across it.
    CURRENT_ACROSS "across" "current_across_mps" FLOWING;
    /// Where it sets.
    SET "set" "set_deg" ROSE;
    /// Heading of the run.
    HEADING "heading" "heading_deg" ROSE;

    // Lures.
    /// Speed from which a lure works.
    LURE_FROM "from" "from_mps" MOVING;
    /// The speed it works best at.
    LURE_FAVOURITE "favourite" "favourite_mps" MOVING;
    /// Speed up to which it works.
    LURE_TO "to" "to_mps" MOVING;

    // What was seen.
    /// Turns of a blade in ten seconds.
    TURNS "turns" "turns" Range::above(0.0, 1_000.0, "", "above 0 and at most 1 000");
    /// Speed of a dunk test.
    DUNK_SPEED "dunk_speed" "speed_mps" MOVING;
    /// Line out at a bottom touch.
    TOUCH_OUT "touch_out" "out_m" LET_OUT;
    /// Depth of the bottom it touched.
    TOUCH_DEPTH "touch_depth" "bottom_m" DEEP;
    /// Speed at which it did.
    TOUCH_SPEED "touch_speed" "speed_mps" MOVING;

    // Parts.
    /// Trade size.
    SIZE "size" "size" Range::closed(-10.0, 2_000.0, "", "between -10 and 2 000");
    /// Length of a part.
    PART_LENGTH "length" "length_m" Range::above(0.0, 1.0, "m", "above 0 and at most 1 m");
    /// Its width, a hook's gap.
    PART_WIDTH "width" "width_m" CALIPER;
    /// Thickness of sheet or wire.
    PART_THICKNESS "thickness" "thickness_m" Range::above(0.0, 0.02, "m", "above 0 and at most 20 mm");
    /// Its diameter, a hook's eye.
    PART_DIAMETER "diameter" "diameter_m" CALIPER;
    /// Its hole.
    PART_BORE "bore" "bore_m" CALIPER;
    /// Its mass.
    PART_MASS "mass" "mass_kg" Range::above(0.0, 5.0, "kg", "above 0 and at most 5 kg");
    /// How far a wing is bent in.
    BEND "bend" "bend" Range::closed(0.0, 1.0, "", "between 0 (flat) and 1 (bent in)");
    /// Pieces of a part, or metres of line and wire.
    LEFT "left" "left_count" MANY;
    /// How few of them run short.
    LOW "low" "low_count" MANY;
    /// Cost of one piece or metre.
    COST "cost" "unit_cost" MANY;
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_figure_is_refused_by_its_key() {
        assert!(LEAD.check(60.0).is_ok());
        let refusal = LEAD.check(60.1).unwrap_err();
        assert_eq!(refusal.quantity(), "lead_m");
        assert!(TOWED.check(0.0).is_err() && SPEED.check(0.0).is_ok());
    }

    #[test]
    fn a_key_names_the_unit_of_its_range() {
        for field in ALL {
            let unit = match field.range.unit {
                "m" => "_m",
                "m/s" => "_mps",
                "kg" => "_kg",
                // A position is `lat` and `lon`, as everywhere.
                "°" if !matches!(field.key, "lat" | "lon") => "_deg",
                "°C" => "_c",
                "s" => "seconds",
                _ => "",
            };
            assert!(field.key.ends_with(unit), "{field:?}");
            assert!(field.range.least < field.range.most, "{field:?}");
        }
    }
}
