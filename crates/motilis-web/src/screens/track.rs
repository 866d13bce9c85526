//! Where the boat went: a track in and out, spots.

use super::upload::file;
use super::{follow, ok, refused, see};
use crate::app::{Outcome, Reading};
use crate::device::{Borne, Looking, Sent};
use crate::{App, Error};
use actix_multipart::form::MultipartForm;
use actix_multipart::form::tempfile::TempFile;
use actix_multipart::form::text::Text;
use actix_web::HttpResponse;
use actix_web::web::{Data, Path, Query};
use motilis_core::book::SpotId;
use motilis_core::track::Track;
use motilis_formats::{MOST_GPX_BYTES, read_gpx};
use motilis_helm::{Act, Error as HelmError, LogAct, TrackLook, WaterAct, outing_of};
use motilis_store::spots;
use motilis_view::forms::{Texts, spot};
use motilis_view::present::{self, TrackTold};
use motilis_view::screens::TrackScreen;
use serde::Deserialize;
use std::io::Read;

/// What was just done.
#[derive(Default, Deserialize)]
#[serde(default)]
pub(crate) struct Ask {
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    came: Option<i64>,
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    track_gone: Option<i64>,
    #[serde(deserialize_with = "motilis_view::forms::lenient")]
    spot_gone: Option<i64>,
    timeless: String,
}

/// `GET /log/track`
pub(crate) async fn show(
    app: Data<App>,
    looking: Looking,
    ask: Query<Ask>,
) -> Result<HttpResponse, Error> {
    let done = ask.came.map(|_| match ask.timeless.as_str() {
        "" | "0" => "The track is in the log.".to_owned(),
        some => format!("The track is in the log; {some} points without a time were left out."),
    });
    let page = app
        .ask(move |book| {
            let track = ask.track_gone.map(|id| format!("/log/tracks/{id}/restore"));
            let spot = ask.spot_gone.map(|id| format!("/spots/{id}/restore"));
            let gone = track.as_ref().map(|_| "Track deleted.");
            let gone = gone.or(spot.as_ref().map(|_| "Spot deleted."));
            let told = TrackTold {
                done: done.or(gone.map(str::to_owned)),
                undo: track.or(spot),
                ..TrackTold::default()
            };
            Ok(present::track(book, looking.0, told)?)
        })
        .await?;
    ok(&page)
}

/// `GET /log/track.gpx`
pub(crate) async fn gpx(app: Data<App>, looking: Looking) -> Result<HttpResponse, Error> {
    let body = app
        .ask(move |book| {
            let look = TrackLook::of(book, None)?;
            Ok(present::gpx(&look, looking.0.system))
        })
        .await?;
    Ok(file("application/gpx+xml", "track.gpx", body))
}

/// A GPX file; a day of it is too large to be held in memory by many at once.
#[derive(Debug, MultipartForm)]
pub(crate) struct Recording {
    #[multipart(limit = "24MiB")]
    file: Option<TempFile>,
    #[multipart(rename = "_act")]
    number: Option<Text<String>>,
}

/// `POST /log/track`
pub(crate) async fn take_in(
    app: Data<App>,
    looking: Looking,
    sent: MultipartForm<Recording>,
) -> Result<HttpResponse, Error> {
    let (device, sent) = (looking.0, sent.into_inner());
    let mut bytes = Vec::new();
    if let Some(sent) = sent.file {
        let most = MOST_GPX_BYTES as u64 + 1;
        let read = sent.file.as_file().take(most).read_to_end(&mut bytes);
        read.map_err(|error| Error::BadRequest(format!("the file could not be read: {error}")))?;
    }
    let number = sent.number.map(Text::into_inner);
    let borne = Borne::numbered(number.unwrap_or_default(), &bytes);
    let read = if bytes.is_empty() {
        Err("No file was chosen; choose a GPX file.".to_owned())
    } else {
        let recorded = read_gpx(&bytes).map_err(|refusal| format!("Not taken in: {refusal}."));
        recorded.and_then(|recorded| {
            let track = Track::new(recorded.name, recorded.points);
            let track = track.map_err(|error| format!("Not taken in: {error}."))?;
            Ok((track, recorded.timeless))
        })
    };
    let timeless = read.as_ref().map_or(0, |(_, timeless)| *timeless);
    let outcome: Outcome<TrackScreen> = app
        .act(&borne, move |book| {
            let sentence = match read {
                Ok((track, _)) => match outing_of(book.connection(), &track) {
                    Err(HelmError::Refused(refusal)) => present::refusal_sentence(&refusal),
                    home => {
                        home?;
                        return Ok(Reading::Act(Act::Log(LogAct::Track(Box::new(track), None))));
                    }
                },
                Err(sentence) => sentence,
            };
            let told = TrackTold {
                refusal: Some(sentence),
                ..TrackTold::default()
            };
            Ok(Reading::Page(present::track(book, device, told)?))
        })
        .await?;
    match outcome {
        Outcome::Done(done) => Ok(see(&format!(
            "/log/track?came={}&timeless={timeless}",
            done.made.unwrap_or_default()
        ))),
        Outcome::Page(page) => refused(&page),
    }
}

async fn keep(
    app: Data<App>,
    sent: Sent<Texts>,
    id: Option<SpotId>,
) -> Result<HttpResponse, Error> {
    let (form, device) = (sent.form, sent.device);
    let outcome = app
        .act(&sent.borne, move |book| {
            let kept = id.map(|id| spots::get(book.connection(), id)).transpose()?;
            let water = match &kept {
                Some(kept) => kept.water,
                None => book.here()?.outing.water,
            };
            match spot::read(&form, water, kept.as_ref(), device.system) {
                Ok(spot) => Ok(Reading::Act(Act::Water(WaterAct::Spot(id, Box::new(spot))))),
                Err(back) => {
                    let told = TrackTold {
                        form: Some((id, back)),
                        ..TrackTold::default()
                    };
                    Ok(Reading::Page(present::track(book, device, told)?))
                }
            }
        })
        .await?;
    follow(outcome, |_| "/log/track#spot-list".into())
}

/// `POST /spots`
pub(crate) async fn add_spot(app: Data<App>, sent: Sent<Texts>) -> Result<HttpResponse, Error> {
    keep(app, sent, None).await
}

/// `POST /spots/{spot}`
pub(crate) async fn save_spot(
    app: Data<App>,
    id: Path<i64>,
    sent: Sent<Texts>,
) -> Result<HttpResponse, Error> {
    keep(app, sent, Some(SpotId(*id))).await
}
