//! The HTTP interface, by area: jobs, what the bench does and asks, the shelves, files, events, pages.

mod bench;
mod darkroom;
mod files;
mod jobs;
mod live;
mod pages;
mod printing;
mod shelves;

use actix_web::http::header::{CacheControl, CacheDirective, ContentEncoding};
use actix_web::middleware::{Compress, from_fn};
use actix_web::web::{self, Data, ServiceConfig};
use actix_web::{HttpResponse, HttpResponseBuilder};
use serde::Deserialize;

use crate::door::{headers, local_only};
use crate::problem::Problem;
use crate::workshop::Workshop;

/// Largest file that is brought, in bytes.
const FILE_BYTES: usize = 80 << 20;
/// Largest act or wish, in bytes: a drawing of the largest kind fits.
const JSON_BYTES: usize = 24 << 20;

type Shared = Data<Workshop>;
type Answer = Result<HttpResponse, Problem>;

/// Runs blocking work off the async workers.
async fn blocking<T: Send + 'static>(work: impl FnOnce() -> Result<T, Problem> + Send + 'static) -> Result<T, Problem> {
    web::block(work).await.map_err(|error| Problem::internal(&error))?
}

/// Answers with JSON what blocking work comes to.
async fn answer<T: serde::Serialize + Send + 'static>(
    work: impl FnOnce() -> Result<T, Problem> + Send + 'static,
) -> Answer {
    Ok(HttpResponse::Ok().json(blocking(work).await?))
}

/// A width asked for.
#[derive(Deserialize)]
struct WidthQuery {
    w: u32,
}

/// A width asked for, and what is done to a picture.
#[derive(Deserialize)]
struct MediaQuery {
    w: u32,
    #[serde(rename = "as")]
    treated: Option<String>,
}

fn kept_for_ever(builder: &mut HttpResponseBuilder) -> &mut HttpResponseBuilder {
    builder.insert_header(CacheControl(vec![
        CacheDirective::Private,
        CacheDirective::MaxAge(31_536_000),
        CacheDirective::Extension("immutable".into(), None),
    ]))
}

/// What is compressed already is sent as it is.
fn as_it_is(builder: &mut HttpResponseBuilder) -> &mut HttpResponseBuilder {
    builder.insert_header(ContentEncoding::Identity)
}

/// All routes; used by the server and by tests alike.
pub fn configure(config: &mut ServiceConfig) {
    let json = web::JsonConfig::default().limit(JSON_BYTES).error_handler(|error, _| match error {
        actix_web::error::JsonPayloadError::OverflowKnownLength { .. }
        | actix_web::error::JsonPayloadError::Overflow { .. } => {
            Problem::too_large("The request holds more than 24 MB. Nothing was changed.").into()
        }
        other => {
            Problem::bad_request(format!("The request is not what is expected here: {other}. Nothing was changed."))
                .into()
        }
    });
    let query = web::QueryConfig::default().error_handler(|error, _| {
        Problem::bad_request(format!("The address is not what is expected here: {error}.")).into()
    });
    let path = web::PathConfig::default()
        .error_handler(|error, _| Problem::not_found(format!("There is nothing at this address: {error}.")).into());
    let nowhere = || async { Err::<HttpResponse, _>(Problem::not_found("There is nothing at this address.")) };
    config.app_data(json).app_data(query).app_data(path).app_data(web::PayloadConfig::new(FILE_BYTES)).service(
        web::scope("")
            .wrap(from_fn(local_only))
            .wrap(Compress::default())
            .wrap(headers())
            .service(
                web::scope("/api")
                    .configure(jobs::routes)
                    .configure(bench::routes)
                    .configure(darkroom::routes)
                    .configure(shelves::routes)
                    .configure(files::routes)
                    .configure(printing::routes)
                    .configure(live::routes)
                    .default_service(web::to(nowhere)),
            )
            .configure(pages::routes),
    );
}
