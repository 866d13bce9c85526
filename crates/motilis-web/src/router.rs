//! Every address of the application, on one screen.

use crate::error::Error;
use crate::screens::{
    acts, bench, boxes, column, judging, log, lures, motion, outings, parts, settings, setups,
    sheet, spread, spread_acts, start, tank, today, waters,
};
use crate::{api, assets};
use actix_multipart::form::MultipartFormConfig;
use actix_web::web::{self, FormConfig, PathConfig, PayloadConfig, QueryConfig, ServiceConfig};

/// Largest form and largest JSON request taken, bytes.
const FORM_LIMIT: usize = 64 * 1024;
const JSON_LIMIT: usize = 1024 * 1024;
/// Largest upload with its form around it, bytes.
const UPLOAD_LIMIT: usize = 9 * 1024 * 1024;

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
        .app_data(
            FormConfig::default()
                .limit(FORM_LIMIT)
                .error_handler(move |e, _| unreadable("form", &e)),
        )
        .app_data(QueryConfig::default().error_handler(move |e, _| unreadable("address", &e)))
        .app_data(PathConfig::default().error_handler(|_, _| {
            Error::NotFound("there is no such page; the rule above leads to those there are".into())
                .into()
        }))
        .app_data(PayloadConfig::new(JSON_LIMIT))
        .app_data(
            MultipartFormConfig::default()
                .total_limit(UPLOAD_LIMIT)
                .memory_limit(UPLOAD_LIMIT)
                .error_handler(|error, _| {
                    Error::TooLarge(format!(
                        "the file could not be taken ({error}); at most 4 MB of CSV or JSON are read"
                    ))
                    .into()
                }),
        )
        .route("/", web::get().to(today::door))
        .route("/start", web::get().to(start::show))
        .route("/start", web::post().to(start::begin))
        .route("/start/zone", web::get().to(start::zone))
        .route("/link", web::get().to(settings::link))
        .route("/today", web::get().to(today::show))
        .route("/today", web::post().to(today::set))
        .route("/today/card", web::get().to(today::card))
        .route("/today/changes", web::get().to(today::changes))
        .route("/today/mark", web::post().to(today::mark))
        .route("/today/take", web::post().to(today::take))
        .route("/today/secchi", web::post().to(today::set_clarity))
        .route("/today/readings", web::post().to(today::add_reading))
        .route("/today/readings/{reading}/delete", web::post().to(acts::delete_reading))
        .route("/today/readings/{reading}/restore", web::post().to(acts::restore_reading))
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
        .route("/waters/{water}/restore", web::post().to(acts::restore_water))
        .route("/waters/{water}/rules", web::post().to(waters::add_rule))
        .route("/waters/{water}/rules/{rule}", web::post().to(waters::save_rule))
        .route("/waters/{water}/rules/{rule}/delete", web::post().to(waters::delete_rule))
        .route("/waters/{water}/rules/{rule}/restore", web::post().to(waters::restore_rule))
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
        .route("/tank/dunk", web::post().to(tank::dunk))
        .route("/tank/dunk/{dunk}/delete", web::post().to(acts::delete_dunk))
        .route("/tank/dunk/{dunk}/restore", web::post().to(acts::restore_dunk))
        .route("/tank/touch", web::post().to(tank::touch))
        .route("/tank/touch/{touch}/delete", web::post().to(acts::delete_touch))
        .route("/tank/touch/{touch}/restore", web::post().to(acts::restore_touch))
        .route("/spread", web::get().to(spread::door))
        .route("/spread", web::post().to(spread::begin))
        .route("/spread/new", web::get().to(spread::blank))
        .route("/spread/compare", web::get().to(spread::compare))
        .route("/spread/crew", web::post().to(spread_acts::crew))
        .route("/spread/{spread}", web::get().to(spread::show))
        .route("/spread/{spread}/card", web::get().to(spread::card))
        .route("/spread/{spread}/add", web::post().to(spread_acts::add))
        .route("/spread/{spread}/set", web::post().to(spread_acts::set_all))
        .route("/spread/{spread}/sort", web::post().to(spread_acts::sort))
        .route("/spread/{spread}/holder", web::post().to(spread_acts::holder))
        .route("/spread/{spread}/depth", web::post().to(spread_acts::to_depth))
        .route("/spread/{spread}/speed", web::post().to(spread_acts::keep_speed))
        .route("/spread/{spread}/mend", web::post().to(spread_acts::mend))
        .route("/spread/{spread}/line/{line}", web::post().to(spread_acts::save_line))
        .route("/spread/{spread}/undo", web::post().to(spread_acts::undo))
        .route("/spread/{spread}/redo", web::post().to(spread_acts::redo))
        .route("/spread/{spread}/duplicate", web::post().to(spread_acts::duplicate))
        .route("/spread/{spread}/delete", web::post().to(acts::delete_spread))
        .route("/spread/{spread}/restore", web::post().to(acts::restore_spread))
        .route("/spread/{spread}/motion", web::post().to(motion::set_off))
        .route("/spread/{spread}/motion/{run}", web::get().to(motion::look))
        .route("/spread/{spread}/motion/{run}/frames.json", web::get().to(motion::frames))
        .route("/spread/{spread}/motion/{run}/stop", web::post().to(motion::stop))
        .route("/spread/{spread}/rename", web::post().to(spread_acts::rename))
        .route("/setups", web::get().to(setups::list))
        .route("/setups", web::post().to(setups::add))
        .route("/setups/{setup}", web::get().to(setups::show))
        .route("/setups/{setup}", web::post().to(setups::save))
        .route("/setups/{setup}/delete", web::post().to(acts::delete_setup))
        .route("/setups/{setup}/restore", web::post().to(acts::restore_setup))
        .route("/lures", web::get().to(lures::list))
        .route("/lures", web::post().to(lures::add))
        .route("/lures/{lure}/delete", web::post().to(acts::delete_lure))
        .route("/lures/{lure}/restore", web::post().to(acts::restore_lure))
        .route("/log", web::get().to(log::show))
        .route("/log", web::post().to(log::tap))
        .route("/log/line", web::post().to(log::run_line))
        .route("/log/{event}", web::post().to(log::correct))
        .route("/log/{event}/delete", web::post().to(acts::delete_event))
        .route("/log/{event}/undo", web::post().to(acts::restore_event))
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
        .route("/box/parts/{part}/delete", web::post().to(acts::delete_part))
        .route("/box/parts/{part}/restore", web::post().to(acts::restore_part))
        .route("/box/made/{made}/state", web::post().to(boxes::set_state))
        .route("/box/made/{made}/dismantle", web::post().to(boxes::dismantle))
        .route("/box/made/{made}/break-off", web::get().to(boxes::broken))
        .route("/box/made/{made}/break-off", web::post().to(boxes::break_off))
        .route("/box/deeds/{deed}/undo", web::post().to(boxes::undo))
        .route("/outings", web::post().to(outings::begin))
        .route("/outings/open", web::post().to(outings::open))
        .route("/outings/end", web::post().to(outings::end))
        .route("/outings/{outing}/delete", web::post().to(acts::delete_outing))
        .route("/outings/{outing}/undo", web::post().to(acts::restore_outing))
        .route("/acts/{act}/undo", web::post().to(acts::undo))
        .route("/unread", web::get().to(settings::unread))
        .route("/settings/count", web::post().to(settings::count))
        .route("/settings/currency", web::post().to(settings::currency))
        .route("/settings/theme", web::post().to(settings::theme))
        .route("/settings/units", web::post().to(settings::units))
        .route("/api/v1/openapi.json", web::get().to(api::document))
        .route("/api/v1/solve/{what}", web::post().to(api::solve))
        .route("/static/{version}/{path:.*}", web::get().to(assets::file));
}
