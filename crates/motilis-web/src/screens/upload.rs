//! Files that come in with a form, and files that go out.

use crate::device::Borne;
use actix_multipart::form::MultipartForm;
use actix_multipart::form::bytes::Bytes;
use actix_multipart::form::text::Text;
use actix_web::HttpResponse;
use actix_web::http::header::{CONTENT_DISPOSITION, CONTENT_TYPE};
use motilis_formats::Format;

/// A file, or its text pasted; and what to do with it.
#[derive(Debug, MultipartForm)]
pub(crate) struct Upload {
    #[multipart(limit = "4MiB")]
    file: Option<Bytes>,
    #[multipart(limit = "4MiB")]
    text: Option<Text<String>>,
    format: Option<Text<String>>,
    act: Option<Text<String>>,
    #[multipart(rename = "_act")]
    number: Option<Text<String>>,
}

impl Upload {
    /// Whether it shall go in, and not only be looked at.
    pub(super) fn wants_all(&self) -> bool {
        self.act.as_ref().is_some_and(|act| **act == "import")
    }

    /// What the form bears beside the file.
    pub(super) fn borne(&mut self, bytes: &[u8]) -> Borne {
        let number = self.number.take().map(Text::into_inner);
        Borne::numbered(number.unwrap_or_default(), bytes)
    }

    /// Its bytes, and what they are.
    pub(super) fn bytes(&mut self) -> (Vec<u8>, Format) {
        let sent = self.file.take().filter(|file| !file.data.is_empty());
        let (bytes, named) = if let Some(file) = sent {
            (file.data.to_vec(), file.file_name.unwrap_or_default())
        } else {
            let text = self.text.take().map(Text::into_inner).unwrap_or_default();
            (text.into_bytes(), String::new())
        };
        let is_json = self
            .format
            .as_ref()
            .is_some_and(|format| **format == "json")
            || std::path::Path::new(&named)
                .extension()
                .is_some_and(|end| end.eq_ignore_ascii_case("json"));
        (bytes, if is_json { Format::Json } else { Format::Csv })
    }
}

/// A text to keep as a file.
pub(super) fn file(kind: &str, name: &str, body: String) -> HttpResponse {
    HttpResponse::Ok()
        .insert_header((CONTENT_TYPE, kind))
        .insert_header((
            CONTENT_DISPOSITION,
            format!("attachment; filename=\"{name}\""),
        ))
        .body(body)
}
