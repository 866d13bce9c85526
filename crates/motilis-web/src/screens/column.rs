//! The water column: light and finishes at any depth and hour; a pure function of the address.

use super::ok;
use crate::device::Looking;
use crate::{App, Error};
use actix_web::HttpResponse;
use actix_web::web::{Data, Query};
use motilis_helm::Desk;
use motilis_view::Seen;
use motilis_view::present::{ColumnAsk, water_column};

/// `GET /column`
pub(crate) async fn look(
    app: Data<App>,
    looking: Looking,
    ask: Query<ColumnAsk>,
) -> Result<HttpResponse, Error> {
    let screen = app
        .ask(move |book| {
            let desk = Seen::new(Desk::without_swaps(book)?, looking.0);
            Ok(water_column(&desk, &ask)?)
        })
        .await?;
    ok(&screen)
}
