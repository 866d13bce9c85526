//! What a browser asks for before it puts the program among a device's own.

use actix_web::HttpResponse;
use actix_web::http::header::{CACHE_CONTROL, CONTENT_TYPE};
use motilis_view::assets;
use serde_json::json;

/// `GET /manifest.webmanifest`
pub(crate) async fn manifest() -> HttpResponse {
    let at = |path: &str| format!("/static/{}/{path}", assets::version());
    let icon = |path: &str, sizes: &str, purpose: &str| json!({ "src": at(path), "sizes": sizes, "type": "image/png", "purpose": purpose });
    let manifest = json!({
        "name": "Motilis",
        "short_name": "Motilis",
        "description": "Bench, planner and boat book for trolling anglers",
        "start_url": "/today",
        "scope": "/",
        "display": "standalone",
        "background_color": "#A9B9A4",
        "theme_color": "#F0DA93",
        "icons": [
            icon("app/icon-192.png", "192x192", "any"),
            icon("app/icon-512.png", "512x512", "any"),
            icon("app/icon-mask.png", "512x512", "maskable"),
        ],
    });
    HttpResponse::Ok()
        .insert_header((CONTENT_TYPE, "application/manifest+json"))
        .body(manifest.to_string())
}

/// `GET /favicon.ico`: browsers ask for it whatever the page names.
pub(crate) async fn favicon() -> HttpResponse {
    assets::get("app/mark.svg").map_or_else(
        || HttpResponse::NotFound().finish(),
        |mark| {
            HttpResponse::Ok()
                .insert_header((CONTENT_TYPE, mark.media_type))
                .body(mark.bytes.into_owned())
        },
    )
}

/// `GET /worker.js`: at the root, so that it may answer for every page.
pub(crate) async fn worker() -> HttpResponse {
    assets::get("app/worker.js").map_or_else(
        || HttpResponse::NotFound().finish(),
        |worker| {
            HttpResponse::Ok()
                .insert_header((CONTENT_TYPE, "text/javascript; charset=utf-8"))
                .insert_header((CACHE_CONTROL, "no-cache"))
                .body(worker.bytes.into_owned())
        },
    )
}
