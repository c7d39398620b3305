//! Files that leave: made in the background, measured and fetched from the same result.

use actix_web::HttpResponse;
use actix_web::http::header;
use actix_web::web::{self, Json, Path, ServiceConfig};
use vatman_document::JobId;

use crate::api::{Answer, Shared, answer, as_it_is, blocking};
use crate::handing::Handed;
use crate::types::HandOverRequest;

pub(super) fn routes(config: &mut ServiceConfig) {
    config
        .route("/jobs/{job}/files", web::post().to(start))
        .route("/work/{work}", web::get().to(state))
        .route("/work/{work}", web::delete().to(cancel))
        .route("/work/{work}/files", web::get().to(cards))
        .route("/work/{work}/file", web::get().to(fetch));
}

async fn start(shop: Shared, job: Path<JobId>, wish: Json<HandOverRequest>) -> Answer {
    let card = blocking(move || shop.handing.start(&shop.works, &job, wish.into_inner())).await?;
    Ok(HttpResponse::Accepted().json(card))
}

async fn state(shop: Shared, work: Path<String>) -> Answer {
    answer(move || shop.works.card(&work)).await
}

async fn cancel(shop: Shared, work: Path<String>) -> Answer {
    blocking(move || shop.works.cancel(&work)).await?;
    Ok(HttpResponse::NoContent().finish())
}

async fn cards(shop: Shared, work: Path<String>) -> Answer {
    answer(move || Ok(shop.works.result::<Handed>(&work)?.cards())).await
}

async fn fetch(shop: Shared, work: Path<String>) -> Answer {
    let file = blocking(move || shop.works.result::<Handed>(&work)?.file()).await?;
    let disposition = format!("attachment; filename=\"{}\"", file.name);
    Ok(as_it_is(&mut HttpResponse::Ok())
        .content_type(file.media_type)
        .insert_header((header::CONTENT_DISPOSITION, disposition))
        .body(file.bytes))
}
