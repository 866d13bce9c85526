//! Every address of the application, on one screen.

use crate::error::Error;
use crate::screens::{
    aboard, acts, bench, boat, boat_acts, boxes, column, data, evidence, experiment, files, find,
    health, installed, judging, log, lures, motion, outings, parts, photo, river, settings, setups,
    sheet, spread, spread_acts, start, tank, today, track, waters,
};
use crate::{api, assets};
use actix_multipart::MultipartError;
use actix_multipart::form::MultipartFormConfig;
use actix_web::error::{PayloadError, UrlencodedError};
use actix_web::http::StatusCode;
use actix_web::web::{self, FormConfig, PathConfig, PayloadConfig, QueryConfig, ServiceConfig};

/// Largest form and largest JSON request taken, bytes.
const FORM_LIMIT: usize = 64 * 1024;
const JSON_LIMIT: usize = 1024 * 1024;
/// Largest upload with its form around it, bytes.
const UPLOAD_LIMIT: usize = 9 * 1024 * 1024;
/// Largest with a track in it, most of which lies on disk meanwhile.
const TRACK_LIMIT: usize = 25 * 1024 * 1024;
/// Largest with a data file in it, which lies on disk meanwhile; a larger one is put in by `motilis restore`.
const BOOK_LIMIT: usize = 257 * 1024 * 1024;

/// Why a file was not taken: it is too large, or it did not come as a form sends one.
fn not_taken(error: &MultipartError, most: &str) -> Error {
    let too_large = || Error::TooLarge(format!("the file is too large: at most {most} are taken"));
    let is_large = |error: &actix_web::Error| {
        error.as_response_error().status_code() == StatusCode::PAYLOAD_TOO_LARGE
    };
    match error {
        MultipartError::Payload(PayloadError::Overflow) => too_large(),
        MultipartError::Field { source, .. }
            if is_large(source) || source.as_error::<PayloadError>().is_some() =>
        {
            too_large()
        }
        other => Error::BadRequest(format!(
            "the file did not come as a form sends one ({other}); choose it and send it again"
        )),
    }
}

/// How forms with files are taken: so large, of which so much may lie in memory.
fn files_up_to(all: usize, memory: usize, most: &'static str) -> MultipartFormConfig {
    MultipartFormConfig::default()
        .total_limit(all)
        .memory_limit(memory)
        .error_handler(move |error, _| not_taken(&error, most).into())
}

/// Adds every route, and how unreadable requests are answered.
#[allow(
    clippy::too_many_lines,
    reason = "a line a route, all of them on one screen"
)]
pub fn configure(config: &mut ServiceConfig) {
    let unreadable = |what: &str, error: &dyn std::fmt::Display| -> actix_web::Error {
        Error::BadRequest(format!("the {what} could not be read: {error}")).into()
    };
    config
        .app_data(FormConfig::default().limit(FORM_LIMIT).error_handler(
            move |error, _| match &error {
                UrlencodedError::Overflow { .. } => {
                    Error::TooLarge("the form holds more than is taken".into()).into()
                }
                other => unreadable("form", other),
            },
        ))
        .app_data(QueryConfig::default().error_handler(move |e, _| unreadable("address", &e)))
        .app_data(PathConfig::default().error_handler(|_, _| {
            Error::NotFound("there is no such page; the rule above leads to those there are".into())
                .into()
        }))
        .app_data(PayloadConfig::new(JSON_LIMIT))
        .app_data(files_up_to(
            TRACK_LIMIT,
            UPLOAD_LIMIT,
            "4 MB of CSV or JSON, 6 MB of a photograph and 24 MB of GPX",
        ))
        .route("/", web::get().to(today::door))
        .route("/manifest.webmanifest", web::get().to(installed::manifest))
        .route("/worker.js", web::get().to(installed::worker))
        .route("/favicon.ico", web::get().to(installed::favicon))
        .route("/start", web::get().to(start::show))
        .route("/start", web::post().to(start::begin))
        .route("/start/zone", web::get().to(start::zone))
        .route("/link", web::get().to(settings::link))
        .route("/today", web::get().to(today::show))
        .route("/today", web::post().to(today::set))
        .route("/today/card", web::get().to(today::card))
        .route("/today/changes", web::get().to(today::changes))
        .route("/today/mark", web::post().to(today::mark))
        .route("/today/confirm", web::post().to(today::confirm))
        .route("/today/take", web::post().to(today::take))
        .route("/today/secchi", web::post().to(today::set_clarity))
        .route("/today/readings", web::post().to(today::add_reading))
        .route(
            "/today/readings/{reading}/delete",
            web::post().to(acts::delete_reading),
        )
        .route(
            "/today/readings/{reading}/restore",
            web::post().to(acts::restore_reading),
        )
        .route("/column", web::get().to(column::look))
        .route("/judging", web::get().to(judging::show))
        .route("/judging/schools", web::post().to(judging::set_schools))
        .route("/judging/weights", web::post().to(judging::set_weights))
        .route("/waters", web::get().to(waters::list))
        .route("/waters/new", web::get().to(waters::blank))
        .route("/waters/new", web::post().to(waters::add))
        .route("/waters/{water}", web::get().to(waters::show))
        .route("/waters/{water}", web::post().to(waters::save))
        .route("/waters/{water}/delete", web::post().to(acts::delete_water))
        .route(
            "/waters/{water}/restore",
            web::post().to(acts::restore_water),
        )
        .route("/waters/{water}/rules", web::post().to(waters::add_rule))
        .route(
            "/waters/{water}/rules/{rule}",
            web::post().to(waters::save_rule),
        )
        .route(
            "/waters/{water}/rules/{rule}/delete",
            web::post().to(waters::delete_rule),
        )
        .route(
            "/waters/{water}/rules/{rule}/restore",
            web::post().to(waters::restore_rule),
        )
        .route("/bench", web::get().to(bench::door))
        .route("/bench/new", web::get().to(bench::start))
        .route("/bench/new", web::post().to(bench::create))
        .route("/bench/compare", web::get().to(bench::compare))
        .route("/bench/{rig}", web::get().to(bench::show))
        .route("/bench/{rig}/edit", web::post().to(bench::edit))
        .route("/bench/{rig}/undo", web::post().to(bench::undo))
        .route("/bench/{rig}/redo", web::post().to(bench::redo))
        .route("/bench/{rig}/tick", web::post().to(bench::tick))
        .route("/bench/{rig}/rename", web::post().to(bench::rename))
        .route("/bench/{rig}/setup", web::post().to(bench::setup))
        .route("/bench/{rig}/measuring", web::post().to(bench::measuring))
        .route("/bench/{rig}/duplicate", web::post().to(bench::duplicate))
        .route("/bench/{rig}/delete", web::post().to(acts::delete_rig))
        .route("/bench/{rig}/restore", web::post().to(acts::restore_rig))
        .route("/bench/{rig}/build", web::post().to(bench::build))
        .route("/bench/{rig}/sheet", web::get().to(sheet::show))
        .route("/bench/{rig}/sheet.pdf", web::get().to(sheet::pdf))
        .route("/tank", web::get().to(tank::show))
        .route("/tank/table", web::get().to(tank::table))
        .route("/tank/dunk", web::post().to(tank::dunk))
        .route(
            "/tank/dunk/{dunk}/delete",
            web::post().to(acts::delete_dunk),
        )
        .route(
            "/tank/dunk/{dunk}/restore",
            web::post().to(acts::restore_dunk),
        )
        .route("/tank/touch", web::post().to(tank::touch))
        .route(
            "/tank/touch/{touch}/delete",
            web::post().to(acts::delete_touch),
        )
        .route(
            "/tank/touch/{touch}/restore",
            web::post().to(acts::restore_touch),
        )
        .route("/spread", web::get().to(spread::door))
        .route("/spread", web::post().to(spread::begin))
        .route("/spread/today", web::post().to(spread::of_today))
        .route("/spread/new", web::get().to(spread::blank))
        .route("/spread/compare", web::get().to(spread::compare))
        .route("/spread/crew", web::post().to(spread_acts::crew))
        .route("/spread/{spread}", web::get().to(spread::show))
        .route("/spread/{spread}/card", web::get().to(spread::card))
        .route("/spread/{spread}/add", web::post().to(spread_acts::add))
        .route("/spread/{spread}/set", web::post().to(spread_acts::set_all))
        .route("/spread/{spread}/sort", web::post().to(spread_acts::sort))
        .route(
            "/spread/{spread}/holder",
            web::post().to(spread_acts::holder),
        )
        .route(
            "/spread/{spread}/depth",
            web::post().to(spread_acts::to_depth),
        )
        .route(
            "/spread/{spread}/speed",
            web::post().to(spread_acts::keep_speed),
        )
        .route("/spread/{spread}/mend", web::post().to(spread_acts::mend))
        .route(
            "/spread/{spread}/line/{line}",
            web::post().to(spread_acts::save_line),
        )
        .route("/spread/{spread}/undo", web::post().to(spread_acts::undo))
        .route("/spread/{spread}/redo", web::post().to(spread_acts::redo))
        .route(
            "/spread/{spread}/duplicate",
            web::post().to(spread_acts::duplicate),
        )
        .route(
            "/spread/{spread}/delete",
            web::post().to(acts::delete_spread),
        )
        .route(
            "/spread/{spread}/restore",
            web::post().to(acts::restore_spread),
        )
        .route("/spread/{spread}/motion", web::post().to(motion::set_off))
        .route("/spread/{spread}/motion/{run}", web::get().to(motion::look))
        .route(
            "/spread/{spread}/motion/{run}/frames.json",
            web::get().to(motion::frames),
        )
        .route(
            "/spread/{spread}/motion/{run}/stop",
            web::post().to(motion::stop),
        )
        .route(
            "/spread/{spread}/rename",
            web::post().to(spread_acts::rename),
        )
        .route("/river", web::get().to(river::show))
        .route("/river/rigs", web::get().to(river::rigs))
        .route("/river/best", web::get().to(river::best))
        .route("/river/cast", web::post().to(river::cast))
        .route("/river/gear", web::post().to(river::set_gear))
        .route("/river/ways", web::post().to(river::set_ways))
        .route("/waters/{water}/runs", web::post().to(river::add_run))
        .route("/waters/{water}/runs/new", web::get().to(river::blank_run))
        .route("/runs/{run}", web::get().to(river::show_run))
        .route("/runs/{run}", web::post().to(river::save_run))
        .route("/runs/{run}/delete", web::post().to(river::delete_run))
        .route("/runs/{run}/restore", web::post().to(river::restore_run))
        .route("/setups", web::get().to(setups::list))
        .route("/setups", web::post().to(setups::add))
        .route("/setups/{setup}", web::get().to(setups::show))
        .route("/setups/{setup}", web::post().to(setups::save))
        .route("/setups/{setup}/delete", web::post().to(acts::delete_setup))
        .route(
            "/setups/{setup}/restore",
            web::post().to(acts::restore_setup),
        )
        .route("/lures", web::get().to(lures::list))
        .route("/lures", web::post().to(lures::add))
        .route("/lures/{lure}/delete", web::post().to(acts::delete_lure))
        .route("/lures/{lure}/restore", web::post().to(acts::restore_lure))
        .route("/log", web::get().to(log::show))
        .route("/log", web::post().to(log::tap))
        .route("/log/line", web::post().to(log::run_line))
        .route("/evidence", web::get().to(evidence::show))
        .route("/evidence.csv", web::get().to(evidence::csv))
        .route("/evidence.json", web::get().to(evidence::json))
        .route("/log/files", web::get().to(files::show))
        .route("/log/files", web::post().to(files::take_in))
        .route("/log/files/{name}", web::get().to(files::out))
        .route("/log/track", web::get().to(track::show))
        .route("/log/track", web::post().to(track::take_in))
        .route("/log/track.gpx", web::get().to(track::gpx))
        .route(
            "/log/tracks/{track}/delete",
            web::post().to(acts::delete_track),
        )
        .route(
            "/log/tracks/{track}/restore",
            web::post().to(acts::restore_track),
        )
        .route("/spots", web::post().to(track::add_spot))
        .route("/spots/{spot}", web::post().to(track::save_spot))
        .route("/spots/{spot}/delete", web::post().to(acts::delete_spot))
        .route("/spots/{spot}/restore", web::post().to(acts::restore_spot))
        .route("/log/experiment", web::get().to(experiment::show))
        .route("/log/experiments", web::post().to(experiment::begin))
        .route(
            "/log/experiments/{experiment}/swap",
            web::post().to(experiment::swap),
        )
        .route(
            "/log/experiments/{experiment}/end",
            web::post().to(experiment::end),
        )
        .route("/log/switch", web::post().to(log::switch))
        .route("/log/rods/out", web::post().to(log::set_out))
        .route("/log/rods/in", web::post().to(log::take_in))
        .route("/log/rods/away", web::post().to(log::away))
        .route("/log/rods/from", web::post().to(log::take_rods))
        .route("/log/passes/{pass}", web::post().to(log::pass_hours))
        .route(
            "/log/passes/{pass}/delete",
            web::post().to(acts::delete_pass),
        )
        .route(
            "/log/passes/{pass}/restore",
            web::post().to(acts::restore_pass),
        )
        .route("/log/{event}", web::post().to(log::correct))
        .route("/log/{event}/photo", web::get().to(photo::show))
        .route("/log/{event}/photo", web::post().to(photo::keep))
        .route("/log/{event}/delete", web::post().to(acts::delete_event))
        .route("/log/{event}/undo", web::post().to(acts::restore_event))
        .route("/boat", web::get().to(boat::show))
        .route("/boat/now.json", web::get().to(boat::now))
        .route("/boat/live", web::get().to(boat::live))
        .route("/boat/plan", web::get().to(boat::plan))
        .route("/boat/set-out", web::get().to(boat::set_out))
        .route("/boat/instruments", web::get().to(boat::instruments))
        .route("/boat/instruments", web::post().to(boat_acts::listen))
        .route("/boat/record", web::post().to(boat_acts::record))
        .route("/boat/current", web::post().to(boat_acts::current))
        .route("/boat/reel", web::post().to(boat_acts::reel))
        .route("/boat/helm", web::post().to(boat_acts::helm))
        .route("/boat/mark", web::post().to(boat_acts::mark))
        .route(
            "/boat/marks/{mark}/delete",
            web::post().to(acts::delete_mark),
        )
        .route(
            "/boat/marks/{mark}/restore",
            web::post().to(acts::restore_mark),
        )
        .route("/boat/wind", web::post().to(boat_acts::wind))
        .route("/boat/practice", web::get().to(boat::practice))
        .route("/boat/practice", web::post().to(boat_acts::begin_practice))
        .route(
            "/boat/practice/end",
            web::post().to(boat_acts::end_practice),
        )
        .route("/phone", web::get().to(boat::phone))
        .route("/box", web::get().to(boxes::show))
        .route("/box/export.csv", web::get().to(boxes::export_csv))
        .route("/box/export.json", web::get().to(boxes::export_json))
        .route("/box/import", web::get().to(boxes::import_form))
        .route("/box/import", web::post().to(boxes::import))
        .route("/box/import/undo", web::post().to(boxes::undo_import))
        .route("/box/shopping", web::get().to(boxes::shopping))
        .route("/box/shopping.txt", web::get().to(boxes::shopping_text))
        .route("/box/shopping.csv", web::get().to(boxes::shopping_csv))
        .route("/box/parts/new", web::get().to(parts::blank))
        .route("/box/parts/new", web::post().to(parts::add))
        .route("/box/parts/{part}", web::get().to(parts::show))
        .route("/box/parts/{part}", web::post().to(parts::save))
        .route("/box/parts/{part}/count", web::post().to(parts::count))
        .route(
            "/box/parts/{part}/delete",
            web::post().to(acts::delete_part),
        )
        .route(
            "/box/parts/{part}/restore",
            web::post().to(acts::restore_part),
        )
        .route("/box/made/{made}/state", web::post().to(boxes::set_state))
        .route(
            "/box/made/{made}/dismantle",
            web::post().to(boxes::dismantle),
        )
        .route("/box/made/{made}/break-off", web::get().to(boxes::broken))
        .route(
            "/box/made/{made}/break-off",
            web::post().to(boxes::break_off),
        )
        .route("/box/deeds/{deed}/undo", web::post().to(boxes::undo))
        .route("/outings", web::post().to(outings::begin))
        .route("/outings/open", web::post().to(outings::open))
        .route("/outings/end", web::post().to(outings::end))
        .route(
            "/outings/{outing}/delete",
            web::post().to(acts::delete_outing),
        )
        .route(
            "/outings/{outing}/undo",
            web::post().to(acts::restore_outing),
        )
        .route("/acts/{act}/undo", web::post().to(acts::undo))
        .route("/deleted", web::get().to(acts::deleted))
        .route(
            "/deleted/{kind}/{id}/restore",
            web::post().to(acts::take_out),
        )
        .route("/sign-in", web::get().to(aboard::sign_in))
        .route("/sign-in", web::post().to(aboard::come_aboard))
        .route("/sign-out", web::post().to(aboard::sign_out))
        .route("/guest/{card}", web::get().to(aboard::guest))
        .route("/aboard", web::get().to(aboard::show))
        .route("/aboard/card", web::post().to(aboard::new_card))
        .route("/aboard/card/away", web::post().to(aboard::no_card))
        .route("/aboard/sessions/end", web::post().to(aboard::end_all))
        .route(
            "/aboard/sessions/{session}/end",
            web::post().to(aboard::end_session),
        )
        .route("/aboard/{role}", web::post().to(aboard::set_phrase))
        .service(
            web::resource("/data")
                .app_data(files_up_to(BOOK_LIMIT, FORM_LIMIT, "256 MB of a data file"))
                .route(web::get().to(data::show))
                .route(web::post().to(data::put_in)),
        )
        .route("/data/copy", web::post().to(data::copy))
        .route("/data/copies/{name}", web::get().to(data::out))
        .route("/data/check", web::post().to(data::look_through))
        .route("/data/mend", web::post().to(data::mend))
        .route("/data/tidy", web::post().to(data::tidy))
        .route("/data/restore", web::post().to(data::restore))
        .route("/data/aside/{record}/back", web::post().to(data::put_back))
        .route("/find/rigs", web::get().to(find::by_rig))
        .route("/find/outings", web::get().to(find::by_outing))
        .route("/health", web::get().to(health::health))
        .route("/unread", web::get().to(settings::unread))
        .route("/settings/count", web::post().to(settings::count))
        .route("/settings/currency", web::post().to(settings::currency))
        .route("/settings/theme", web::post().to(settings::theme))
        .route("/settings/units", web::post().to(settings::units))
        .route("/api/v1/openapi.json", web::get().to(api::document))
        .route("/api/v1/solve/{what}", web::post().to(api::solve))
        .route("/static/{version}/{path:.*}", web::get().to(assets::file));
}
