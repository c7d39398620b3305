//! The program itself: events, one connection for each window, told what happens as it happens; and what it is made of.

use std::time::Duration;

use actix_web::HttpResponse;
use actix_web::http::header::{CacheControl, CacheDirective};
use actix_web::web::{self, Bytes, Path, ServiceConfig};
use futures_util::stream;
use tokio::sync::broadcast::Receiver;
use tokio::sync::broadcast::error::RecvError;

use crate::about::{about, licence_text};
use crate::api::{Answer, Shop, as_it_is};
use crate::events::Event;
use crate::shipped::Shipped;

/// How often a silent connection is shown to be alive.
const ALIVE: Duration = Duration::from_secs(20);

pub(super) fn routes(config: &mut ServiceConfig) {
    config
        .route("/events", web::get().to(events))
        .route("/about", web::get().to(about_program))
        .route("/about/{licence}", web::get().to(licence));
}

async fn about_program(shop: Shop) -> Answer {
    shop.answer(move |shop| about(shop.studio.typesetter.library().families())).await
}

async fn licence(licence: Path<String>) -> Answer {
    Ok(HttpResponse::Ok().content_type("text/plain; charset=utf-8").body(licence_text(&licence)?))
}

fn line(event: &Event) -> Bytes {
    // An event can always be written; one that could not would be an empty line.
    Bytes::from(format!("data: {}\n\n", serde_json::to_string(event).unwrap_or_default()))
}

async fn events(shop: Shop) -> HttpResponse {
    let listener = shop.events.listen();
    let hello = line(&Event::Hello { version: Shipped.version() });
    let body = stream::unfold((Some(hello), listener), |(first, mut listener)| async move {
        if let Some(first) = first {
            return Some((Ok::<_, actix_web::Error>(first), (None, listener)));
        }
        Some((Ok(next(&mut listener).await?), (None, listener)))
    });
    as_it_is(&mut HttpResponse::Ok())
        .content_type("text/event-stream")
        .insert_header(CacheControl(vec![CacheDirective::NoStore]))
        .streaming(body)
}

/// The next event; nothing where the program ends.
async fn next(listener: &mut Receiver<Event>) -> Option<Bytes> {
    match tokio::time::timeout(ALIVE, listener.recv()).await {
        Ok(Ok(event)) => Some(line(&event)),
        Ok(Err(RecvError::Lagged(_))) => Some(line(&Event::Missed)),
        Ok(Err(RecvError::Closed)) => None,
        Err(_) => Some(Bytes::from_static(b": alive\n\n")),
    }
}
