//! Styles, scripts and fonts, under an address that changes with them.

use crate::Error;
use actix_web::HttpResponse;
use actix_web::http::header::{CACHE_CONTROL, CONTENT_TYPE};
use actix_web::web::Path;
use motilis_view::assets;

/// `GET /static/{version}/{path}`
pub(crate) async fn file(address: Path<(String, String)>) -> Result<HttpResponse, Error> {
    let (version, path) = address.into_inner();
    let asset = assets::get(&path)
        .ok_or_else(|| Error::NotFound("there is no such file in this program".into()))?;
    // An old page may still ask under an old version: it gets today's file, but must not keep it.
    let keep = if version == assets::version() {
        "public, max-age=31536000, immutable"
    } else {
        "no-cache"
    };
    Ok(HttpResponse::Ok()
        .insert_header((CONTENT_TYPE, asset.media_type))
        .insert_header((CACHE_CONTROL, keep))
        .body(asset.bytes.into_owned()))
}
