//! Sheets and lists.

use actix_web::HttpResponse;
use actix_web::web::{self, Bytes, Json, Path, Query, ServiceConfig};
use serde::Deserialize;
use vatman_document::{JobId, PieceId};

use crate::api::files::attached;
use crate::api::{Answer, Shared, answer, as_it_is, blocking};
use crate::printing::PrintedFiles;
use crate::problem::Problem;
use crate::types::{ListWish, ListedFiles, PrintWish, SheetStart};

pub(super) fn routes(config: &mut ServiceConfig) {
    config
        .route("/jobs/{job}/pieces/{piece}/sheets", web::get().to(begin))
        .route("/jobs/{job}/sheets/plan", web::post().to(plan))
        .route("/jobs/{job}/sheets/picture", web::post().to(picture))
        .route("/jobs/{job}/sheets/file", web::post().to(print))
        .route("/jobs/{job}/sheets/guide", web::post().to(guide))
        .route("/jobs/{job}/pieces/{piece}/list", web::get().to(list))
        .route("/jobs/{job}/pieces/{piece}/list", web::post().to(take_list))
        .route("/jobs/{job}/pieces/{piece}/list", web::put().to(match_list))
        .route("/jobs/{job}/pieces/{piece}/list", web::delete().to(drop_list))
        .route("/jobs/{job}/pieces/{piece}/list/picture", web::get().to(row_picture))
        .route("/jobs/{job}/pieces/{piece}/list/files", web::post().to(listed))
        .route("/work/{work}/printed", web::get().to(fetch));
}

type Of = Path<(JobId, PieceId)>;

async fn begin(shop: Shared, of: Of) -> Answer {
    answer(move || {
        let (setup, kinds) = shop.printing.setup(&of.0, &of.1)?;
        Ok(SheetStart {
            setup,
            kinds,
            papers: vatman_imposition::PAPERS.to_vec(),
            kept: shop.shelves.keeping.setups()?,
        })
    })
    .await
}

async fn plan(shop: Shared, job: Path<JobId>, wish: Json<PrintWish>) -> Answer {
    answer(move || shop.printing.card(&job, &wish)).await
}

#[derive(Deserialize)]
struct FaceQuery {
    face: usize,
    w: u32,
}

async fn picture(shop: Shared, job: Path<JobId>, query: Query<FaceQuery>, wish: Json<PrintWish>) -> Answer {
    let png = blocking(move || shop.printing.picture(&job, &wish, query.face, query.w)).await?;
    Ok(as_it_is(&mut HttpResponse::Ok()).content_type("image/png").body(png))
}

async fn print(shop: Shared, job: Path<JobId>, wish: Json<PrintWish>) -> Answer {
    let card = blocking(move || shop.printing.start(&shop.works, &job, wish.into_inner())).await?;
    Ok(HttpResponse::Accepted().json(card))
}

async fn guide(shop: Shared, job: Path<JobId>, wish: Json<PrintWish>) -> Answer {
    Ok(attached(blocking(move || shop.printing.guide(&job, &wish)).await?))
}

async fn list(shop: Shared, of: Of) -> Answer {
    answer(move || shop.printing.list(&of.0, &of.1)).await
}

#[derive(Deserialize)]
struct NameQuery {
    #[serde(default)]
    name: String,
}

async fn take_list(shop: Shared, of: Of, query: Query<NameQuery>, body: Result<Bytes, actix_web::Error>) -> Answer {
    let bytes = body.map_err(|_| Problem::too_large("A list holds up to 20 MB. Nothing was taken."))?;
    answer(move || shop.printing.take_list(&of.0, &of.1, &query.name, &bytes)).await
}

async fn match_list(shop: Shared, of: Of, wish: Json<ListWish>) -> Answer {
    answer(move || shop.printing.match_list(&of.0, &of.1, wish.into_inner())).await
}

async fn drop_list(shop: Shared, of: Of) -> Answer {
    blocking(move || shop.printing.drop_list(&of.0, &of.1)).await?;
    Ok(HttpResponse::NoContent().finish())
}

#[derive(Deserialize)]
struct RowQuery {
    row: usize,
    #[serde(default)]
    side: usize,
    w: u32,
}

async fn row_picture(shop: Shared, of: Of, query: Query<RowQuery>) -> Answer {
    let wanted = (query.row, query.side, query.w);
    let png = blocking(move || shop.printing.row_picture(&of.0, &of.1, wanted)).await?;
    Ok(as_it_is(&mut HttpResponse::Ok()).content_type("image/png").body(png))
}

async fn listed(shop: Shared, of: Of, wish: Json<ListedFiles>) -> Answer {
    let card = blocking(move || shop.printing.start_listed(&shop.works, &of.0, &of.1, wish.into_inner())).await?;
    Ok(HttpResponse::Accepted().json(card))
}

async fn fetch(shop: Shared, work: Path<String>) -> Answer {
    Ok(attached(blocking(move || shop.works.result::<PrintedFiles>(&work)?.file()).await?))
}
