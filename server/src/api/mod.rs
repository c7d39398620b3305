//! The HTTP interface, by area: jobs, what the bench does and asks, the shelves, files, events, pages.

mod bench;
mod darkroom;
mod files;
mod jobs;
mod live;
mod pages;
mod printing;
mod shelves;

use std::future::{Ready, ready};
use std::hash::{DefaultHasher, Hash as _, Hasher as _};

use actix_web::dev::Payload;
use actix_web::http::header::{CacheControl, CacheDirective, ContentEncoding};
use actix_web::middleware::{Compress, from_fn};
use actix_web::web::{self, Data, ServiceConfig};
use actix_web::{FromRequest, HttpRequest, HttpResponse, HttpResponseBuilder};
use serde::Deserialize;

use crate::door::{OWN_HEADER, head_as_get, headers, local_only};
use crate::lanes::Wanted;
use crate::problem::Problem;
use crate::workshop::Workshop;

/// Largest file that is brought, in bytes.
const FILE_BYTES: usize = 80 << 20;
/// Largest act or wish, in bytes: a drawing of the largest kind fits.
const JSON_BYTES: usize = 24 << 20;

type Answer = Result<HttpResponse, Problem>;

/// The workshop as a handler has it: with the lanes its work runs on, and who asks.
struct Shop {
    shop: Data<Workshop>,
    asker: u64,
}

impl std::ops::Deref for Shop {
    type Target = Data<Workshop>;
    fn deref(&self) -> &Self::Target {
        &self.shop
    }
}

impl FromRequest for Shop {
    type Error = actix_web::Error;
    type Future = Ready<Result<Self, Self::Error>>;

    fn from_request(request: &HttpRequest, payload: &mut Payload) -> Self::Future {
        let asker = asker(request);
        ready(Data::<Workshop>::from_request(request, payload).into_inner().map(|shop| Self { shop, asker }))
    }
}

/// Who asks: the window that says so, else whoever works on this job, else the address it comes from.
fn asker(request: &HttpRequest) -> u64 {
    let mut hasher = DefaultHasher::new();
    match (request.headers().get(OWN_HEADER), request.match_info().get("job"), request.peer_addr()) {
        (Some(window), ..) => window.as_bytes().hash(&mut hasher),
        (None, Some(job), _) => job.hash(&mut hasher),
        (None, None, peer) => peer.map(|peer| peer.ip()).hash(&mut hasher),
    }
    hasher.finish()
}

impl Shop {
    /// Runs an act, or reads what is read in a moment.
    async fn quick<T: Send + 'static>(
        &self,
        work: impl FnOnce(&Data<Workshop>) -> Result<T, Problem> + Send + 'static,
    ) -> Result<T, Problem> {
        let shop = self.shop.clone();
        self.lanes.quick.run(self.asker, move |_| work(&shop)).await
    }

    /// Runs what draws or works something out.
    async fn drawn<T: Send + 'static>(
        &self,
        work: impl FnOnce(&Data<Workshop>) -> Result<T, Problem> + Send + 'static,
    ) -> Result<T, Problem> {
        let shop = self.shop.clone();
        self.lanes.slow.run(self.asker, move |_| work(&shop)).await
    }

    /// Runs what a stranger's file is for; it is told whether somebody still waits.
    async fn stranger<T: Send + 'static>(
        &self,
        work: impl FnOnce(&Data<Workshop>, &Wanted) -> Result<T, Problem> + Send + 'static,
    ) -> Result<T, Problem> {
        let shop = self.shop.clone();
        self.lanes.strangers.run(self.asker, move |wanted| work(&shop, wanted)).await
    }

    /// Answers with JSON what quick work comes to.
    async fn answer<T: serde::Serialize + Send + 'static>(
        &self,
        work: impl FnOnce(&Data<Workshop>) -> Result<T, Problem> + Send + 'static,
    ) -> Answer {
        Ok(HttpResponse::Ok().json(self.quick(work).await?))
    }

    /// Answers with JSON what slow work comes to.
    async fn answer_drawn<T: serde::Serialize + Send + 'static>(
        &self,
        work: impl FnOnce(&Data<Workshop>) -> Result<T, Problem> + Send + 'static,
    ) -> Answer {
        Ok(HttpResponse::Ok().json(self.drawn(work).await?))
    }
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
            .wrap(from_fn(head_as_get))
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
