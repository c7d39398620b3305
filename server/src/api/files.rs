//! Files that leave: made in the background, measured and fetched from the same result.

use actix_web::HttpResponse;
use actix_web::http::header;
use actix_web::web::{self, Json, Path, ServiceConfig};
use vatman_craft::OutputFile;
use vatman_document::JobId;

use crate::api::{Answer, Shop, as_it_is};
use crate::handing::Handed;
use crate::types::HandOverRequest;

pub(super) fn routes(config: &mut ServiceConfig) {
    config
        .route("/jobs/{job}/files", web::post().to(start))
        .route("/work/{work}", web::get().to(state))
        .route("/work/{work}", web::delete().to(cancel))
        .route("/work/{work}/files", web::get().to(cards))
        .route("/work/{work}/files/{at}", web::get().to(fetch_one))
        .route("/work/{work}/file", web::get().to(fetch))
        .route("/jobs/{job}/handed", web::get().to(handed));
}

async fn start(shop: Shop, job: Path<JobId>, wish: Json<HandOverRequest>) -> Answer {
    let card = shop.quick(move |shop| shop.handing.start(&shop.works, &job, wish.into_inner())).await?;
    Ok(HttpResponse::Accepted().json(card))
}

async fn state(shop: Shop, work: Path<String>) -> Answer {
    shop.answer(move |shop| shop.works.card(&work)).await
}

async fn cancel(shop: Shop, work: Path<String>) -> Answer {
    shop.quick(move |shop| shop.works.cancel(&work)).await?;
    Ok(HttpResponse::NoContent().finish())
}

async fn cards(shop: Shop, work: Path<String>) -> Answer {
    shop.answer(move |shop| Ok(shop.works.result::<Handed>(&work)?.cards())).await
}

async fn fetch(shop: Shop, work: Path<String>) -> Answer {
    let file = shop.quick(move |shop| {
        let handed = shop.works.result::<Handed>(&work)?;
        let file = handed.file()?;
        shop.handing.fetched(&handed, None);
        Ok(file)
    });
    Ok(attached(file.await?))
}

async fn fetch_one(shop: Shop, which: Path<(String, usize)>) -> Answer {
    let file = shop.quick(move |shop| {
        let handed = shop.works.result::<Handed>(&which.0)?;
        let file = handed.one(which.1)?;
        shop.handing.fetched(&handed, Some(which.1));
        Ok(file)
    });
    Ok(attached(file.await?))
}

pub(super) fn attached(file: OutputFile) -> HttpResponse {
    let disposition = format!("attachment; filename=\"{}\"", file.name);
    as_it_is(&mut HttpResponse::Ok())
        .content_type(file.media_type)
        .insert_header((header::CONTENT_DISPOSITION, disposition))
        .body(file.bytes)
}

async fn handed(shop: Shop, job: Path<JobId>) -> Answer {
    shop.answer(move |shop| shop.handing.handed(&job)).await
}
