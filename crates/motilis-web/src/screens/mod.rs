//! One module for each screen, and what they share: the open outing and the frame around a page.

pub(crate) mod bench;
pub(crate) mod boxes;
pub(crate) mod column;
pub(crate) mod judging;
pub(crate) mod log;
pub(crate) mod observed;
pub(crate) mod outings;
pub(crate) mod settings;
pub(crate) mod setups;
pub(crate) mod spread;
pub(crate) mod tank;
pub(crate) mod today;
pub(crate) mod waters;

use crate::Error;
use actix_web::http::header;
use actix_web::{HttpRequest, HttpResponse};
use askama::Template;
use jiff::tz::TimeZone;
use jiff::{Timestamp, ZonedDateTime};
use motilis_core::book::{Outing, OutingId, WaterBody, WaterId};
use motilis_store::{
    Connection, outings as outing_table, settings as setting_table, waters as water_table,
};
use motilis_view::screens::{Choice, Frame, Here, Screen, Theme};
use motilis_view::units::{Quantity, System, show};
use std::collections::HashMap;

/// Cookie that remembers a device's theme.
pub(crate) const THEME_COOKIE: &str = "motilis-theme";

/// Day or night, as this device chose.
pub(crate) fn theme_of(request: &HttpRequest) -> Theme {
    request
        .cookie(THEME_COOKIE)
        .map(|cookie| Theme::from_key(cookie.value()))
        .unwrap_or_default()
}

/// The open outing and what is needed to show anything about it.
pub(crate) struct Context {
    /// Number of the open outing.
    pub id: OutingId,
    /// The open outing.
    pub outing: Outing,
    /// Its water.
    pub water: WaterBody,
    /// Every water.
    pub waters: Vec<(WaterId, WaterBody)>,
    /// Every outing, the newest first.
    pub outings: Vec<(OutingId, Outing)>,
    /// The boat's units.
    pub system: System,
}

impl Context {
    /// Reads it; the outing last opened, or the newest.
    pub fn load(connection: &Connection) -> Result<Self, Error> {
        let outings = outing_table::all(connection)?;
        let opened = setting_table::get(connection, "open_outing")?.and_then(|id| id.parse().ok());
        let (id, outing) = outings
            .iter()
            .find(|(id, _)| Some(id.0) == opened)
            .or(outings.first())
            .cloned()
            .ok_or_else(|| {
                Error::NotFound(
                    "there is no outing in this data file yet; open Waters, add yours and begin an outing on it (`motilis demo` shows a filled-in day)".into(),
                )
            })?;
        Ok(Self {
            id,
            water: water_table::get(connection, outing.water)?,
            waters: water_table::all(connection)?,
            system: system(connection)?,
            outing,
            outings,
        })
    }

    /// The frame around a screen.
    pub fn frame(&self, screen: Screen, theme: Theme, path: &str) -> Frame {
        let started = self.local(self.outing.started);
        let temperature = show(
            Quantity::Temperature,
            self.outing.temperature.0,
            self.system,
        );
        Frame {
            screen,
            theme,
            system: self.system,
            here: Here {
                water: self.water.name.clone(),
                when: format!("{}, {temperature}", started.strftime("%a %-d %B")),
            },
            path: path.to_owned(),
        }
    }

    /// An instant in the water's own time.
    pub fn local(&self, at: Timestamp) -> ZonedDateTime {
        at.to_zoned_datetime(zone(&self.water))
    }

    /// The outings to choose from.
    pub fn outing_choices(&self) -> Vec<Choice> {
        let names: HashMap<i64, &WaterBody> = self
            .waters
            .iter()
            .map(|(id, water)| (id.0, water))
            .collect();
        self.outings
            .iter()
            .map(|(id, outing)| {
                let water = names.get(&outing.water.0).copied().unwrap_or(&self.water);
                let day = outing.started.to_zoned_datetime(zone(water));
                Choice {
                    value: id.0.to_string(),
                    label: format!("{}, {}", day.strftime("%a %-d %b %Y"), water.name),
                    chosen: *id == self.id,
                }
            })
            .collect()
    }
}

/// The frame around a screen that needs no outing: where and when only if there is one.
pub(crate) fn frame(
    connection: &Connection,
    screen: Screen,
    theme: Theme,
    path: &str,
) -> Result<Frame, Error> {
    match Context::load(connection) {
        Ok(context) => Ok(context.frame(screen, theme, path)),
        Err(Error::NotFound(_)) => Ok(Frame {
            screen,
            theme,
            system: system(connection)?,
            here: Here::default(),
            path: path.to_owned(),
        }),
        Err(error) => Err(error),
    }
}

/// The boat's units.
pub(crate) fn system(connection: &Connection) -> Result<System, Error> {
    let key = setting_table::get(connection, "units")?;
    Ok(key.map(|key| System::from_key(&key)).unwrap_or_default())
}

/// A water's time zone; UTC when its name is not in the database of zones.
pub(crate) fn zone(water: &WaterBody) -> TimeZone {
    TimeZone::get(&water.zone).unwrap_or(TimeZone::UTC)
}

/// A page with its status.
pub(crate) fn page(
    mut response: actix_web::HttpResponseBuilder,
    page: &impl Template,
) -> Result<HttpResponse, Error> {
    Ok(response
        .content_type("text/html; charset=utf-8")
        .body(page.render()?))
}

/// Sends the browser on after a change.
pub(crate) fn see(address: &str) -> HttpResponse {
    HttpResponse::SeeOther()
        .insert_header((header::LOCATION, address))
        .finish()
}

/// A path of ours to come back to; Today for anything else.
pub(crate) fn back(path: &str) -> &str {
    let ours = path.starts_with('/')
        && !path.starts_with("//")
        && path.chars().all(|c| c.is_ascii_graphic() && c != '\\');
    if ours { path } else { "/today" }
}

#[cfg(test)]
mod tests {
    use super::back;
    use rstest::rstest;

    #[rstest]
    #[case("/tank?rig=3", "/tank?rig=3")]
    #[case("//evil.example", "/today")]
    #[case("https://evil.example", "/today")]
    #[case("/\\evil.example", "/today")]
    #[case("/log\r\nSet-Cookie: a=b", "/today")]
    #[case("", "/today")]
    fn only_a_path_of_ours_is_come_back_to(#[case] asked: &str, #[case] gone: &str) {
        assert_eq!(back(asked), gone);
    }
}
