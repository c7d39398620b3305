//! What went wrong, as RFC 9457 problems; the one place where errors get a status.

use actix_web::http::{StatusCode, header};
use actix_web::{HttpResponse, ResponseError};
use serde::Serialize;
use ts_rs::TS;
use vatman_craft::{AlignError, ContrastError, HandOverError, OwnSize, Refusal, SvgError};
use vatman_document::{ColorError, CommandError, Fault, IdError};
use vatman_output::{PdfError, PixelError};
use vatman_photo::{EncodeError, PictureError};
use vatman_type::OwnFontError;

use crate::store::StoreError;

/// A problem report: a plain sentence, and what to do.
#[derive(Debug, Clone, Serialize, TS)]
pub struct Problem {
    /// A stable short name.
    #[serde(rename = "type")]
    pub kind: &'static str,
    /// HTTP status.
    pub status: u16,
    /// What kind of thing happened.
    pub title: &'static str,
    /// What happened, what was kept, what to do.
    pub detail: String,
    /// The current revision, where a stale one was given.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional, type = "number")]
    pub revision: Option<i64>,
}

impl Problem {
    fn new(status: StatusCode, kind: &'static str, title: &'static str, detail: impl Into<String>) -> Self {
        Self { kind, status: status.as_u16(), title, detail: detail.into(), revision: None }
    }

    /// The request makes no sense.
    pub fn bad_request(detail: impl Into<String>) -> Self {
        Self::new(StatusCode::BAD_REQUEST, "bad-request", "The request cannot be read", detail)
    }

    /// A value outside what can be made.
    pub fn value(detail: impl Into<String>) -> Self {
        Self::new(StatusCode::UNPROCESSABLE_ENTITY, "value", "That cannot be done", detail)
    }

    /// A picture that cannot be used, and whether it is something else altogether.
    pub fn picture(unknown: bool, says: impl std::fmt::Display) -> Self {
        let status = if unknown { StatusCode::UNSUPPORTED_MEDIA_TYPE } else { StatusCode::UNPROCESSABLE_ENTITY };
        Self::new(status, "picture", "The picture cannot be used", format!("{says} Nothing else was changed."))
    }

    /// Something that is not there.
    pub fn not_found(detail: impl Into<String>) -> Self {
        Self::new(StatusCode::NOT_FOUND, "not-found", "Not found", detail)
    }

    /// A request from somewhere else.
    pub fn foreign() -> Self {
        Self::new(
            StatusCode::FORBIDDEN,
            "foreign",
            "Request refused",
            "This program answers only pages it has served itself on this machine.",
        )
    }

    /// More bytes than are taken.
    pub fn too_large(detail: impl Into<String>) -> Self {
        Self::new(StatusCode::PAYLOAD_TOO_LARGE, "too-large", "Too large", detail)
    }

    /// Another change came first.
    pub fn stale(revision: i64) -> Self {
        let detail = "This job was changed in another window in the meantime. Nothing was overwritten; the newest state is being shown.";
        Self { revision: Some(revision), ..Self::new(StatusCode::CONFLICT, "stale", "Changed elsewhere", detail) }
    }

    /// It was given up by the person.
    pub fn cancelled() -> Self {
        Self::new(
            StatusCode::GONE,
            "cancelled",
            "Given up",
            "This was given up before it was done. Start it again when it is wanted.",
        )
    }

    /// Too much waits already.
    pub fn busy() -> Self {
        let detail =
            "Too much is being made already. Wait until some of it is done, then try again; nothing was started.";
        Self::new(StatusCode::TOO_MANY_REQUESTS, "busy", "Busy", detail)
    }

    /// A fault of the program: the details go to the log, not to the reader.
    pub fn internal(why: &dyn std::fmt::Display) -> Self {
        tracing::error!("{why}");
        let detail =
            "Something went wrong in the program. Everything kept before is still there. Try again; the log says more.";
        Self::new(StatusCode::INTERNAL_SERVER_ERROR, "internal", "Internal error", detail)
    }
}

impl std::fmt::Display for Problem {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.write_str(&self.detail)
    }
}

impl ResponseError for Problem {
    fn status_code(&self) -> StatusCode {
        StatusCode::from_u16(self.status).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR)
    }

    fn error_response(&self) -> HttpResponse {
        let body = serde_json::to_string(self).unwrap_or_default();
        HttpResponse::build(self.status_code())
            .insert_header((header::CONTENT_TYPE, "application/problem+json"))
            .body(body)
    }
}

impl From<CommandError> for Problem {
    fn from(error: CommandError) -> Self {
        match error {
            CommandError::Missing(..) | CommandError::Unsound(Fault::Missing(..)) => Self::not_found(error.to_string()),
            other => Self::value(other.to_string()),
        }
    }
}

impl From<Refusal> for Problem {
    fn from(refusal: Refusal) -> Self {
        match refusal {
            Refusal::Missing(..) => Self::not_found(refusal.to_string()),
            Refusal::Command(error) => error.into(),
            other => Self::value(other.to_string()),
        }
    }
}

impl From<StoreError> for Problem {
    fn from(error: StoreError) -> Self {
        match error {
            StoreError::Full => {
                Self::new(StatusCode::INSUFFICIENT_STORAGE, "disk-full", "The disk is full", error.to_string())
            }
            StoreError::Stored(why) => {
                Self::new(StatusCode::INTERNAL_SERVER_ERROR, "damaged", "A job cannot be read", why.to_string())
            }
            StoreError::Damaged(_) => {
                tracing::error!("{error}");
                Self::new(StatusCode::INTERNAL_SERVER_ERROR, "damaged", "The data file is damaged", error.to_string())
            }
            other => Self::internal(&other),
        }
    }
}

impl From<PictureError> for Problem {
    fn from(error: PictureError) -> Self {
        Self::picture(matches!(error, PictureError::Unknown), error.to_string())
    }
}

impl From<HandOverError> for Problem {
    fn from(error: HandOverError) -> Self {
        match error {
            HandOverError::Pixels(why) => why.into(),
            HandOverError::Encode(why) => why.into(),
            other => Self::internal(&other),
        }
    }
}

impl From<PdfError> for Problem {
    fn from(error: PdfError) -> Self {
        HandOverError::from(error).into()
    }
}

macro_rules! values {
    ($($error:ty),*) => {$(
        impl From<$error> for Problem {
            fn from(error: $error) -> Self {
                Self::value(error.to_string())
            }
        }
    )*};
}
values!(
    PixelError,
    EncodeError,
    OwnSize,
    AlignError,
    ColorError,
    ContrastError,
    SvgError,
    OwnFontError,
    vatman_units::MeasureError
);

impl From<IdError> for Problem {
    fn from(error: IdError) -> Self {
        Self::bad_request(error.to_string())
    }
}
