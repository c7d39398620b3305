//! Jobs: the board, starting, removing, bringing back.

use actix_web::HttpResponse;
use actix_web::http::header;
use actix_web::web::{self, Json, Path, Query, ServiceConfig};
use serde::Deserialize;
use serde_json::json;
use vatman_craft::Pace;
use vatman_document::JobId;

use crate::api::{Answer, Shop};
use crate::types::{NextRequest, StartRequest};

pub(super) fn routes(config: &mut ServiceConfig) {
    config
        .route("/jobs", web::get().to(board))
        .route("/jobs", web::post().to(start))
        .route("/jobs/{job}", web::get().to(open))
        .route("/jobs/{job}", web::delete().to(remove))
        .route("/jobs/{job}/restore", web::post().to(restore))
        .route("/jobs/{job}/next", web::get().to(next))
        .route("/jobs/{job}/next", web::post().to(make_next))
        .route("/jobs/{job}/states", web::get().to(states))
        .route("/jobs/{job}/states/{revision}", web::post().to(put_back))
        .route("/jobs/{job}/document", web::get().to(document));
}

async fn board(shop: Shop) -> Answer {
    shop.answer(move |shop| shop.jobs.board()).await
}

async fn start(shop: Shop, wish: Json<StartRequest>) -> Answer {
    let id = shop.quick(move |shop| shop.start(&wish)).await?;
    Ok(HttpResponse::Created().json(json!({ "id": id })))
}

#[derive(Deserialize)]
struct NextQuery {
    step: Pace,
}

async fn next(shop: Shop, job: Path<JobId>, query: Query<NextQuery>) -> Answer {
    shop.answer(move |shop| shop.next(&job, query.step)).await
}

async fn make_next(shop: Shop, job: Path<JobId>, wish: Json<NextRequest>) -> Answer {
    let id = shop.quick(move |shop| shop.make_next(&job, &wish)).await?;
    Ok(HttpResponse::Created().json(json!({ "id": id })))
}

async fn open(shop: Shop, job: Path<JobId>) -> Answer {
    shop.answer(move |shop| shop.open_job(&job)).await
}

async fn remove(shop: Shop, job: Path<JobId>) -> Answer {
    shop.quick(move |shop| shop.jobs.set_removed(&job, true)).await?;
    Ok(HttpResponse::NoContent().finish())
}

async fn restore(shop: Shop, job: Path<JobId>) -> Answer {
    shop.quick(move |shop| shop.jobs.set_removed(&job, false)).await?;
    Ok(HttpResponse::NoContent().finish())
}

async fn states(shop: Shop, job: Path<JobId>) -> Answer {
    shop.answer(move |shop| shop.jobs.states(&job)).await
}

async fn put_back(shop: Shop, path: Path<(JobId, i64)>) -> Answer {
    shop.quick(move |shop| shop.jobs.put_back(&path.0, path.1)).await?;
    Ok(HttpResponse::NoContent().finish())
}

/// The job file as it is kept, for rescue.
async fn document(shop: Shop, job: Path<JobId>) -> Answer {
    let name = format!("attachment; filename=\"{}.json\"", job.as_str());
    let text = shop.quick(move |shop| shop.jobs.document(&job)).await?;
    Ok(HttpResponse::Ok()
        .content_type("application/json")
        .insert_header((header::CONTENT_DISPOSITION, name))
        .body(text))
}
