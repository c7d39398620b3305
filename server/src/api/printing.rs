//! Sheets and lists.

use actix_web::HttpResponse;
use actix_web::web::{self, Bytes, Json, Path, Query, ServiceConfig};
use serde::Deserialize;
use vatman_craft::{Good, GoodArea, OutputFile, cloth_card, goods, proof_card, soft_proof};
use vatman_document::{Color, JobId, PieceId, SideId};
use vatman_photo::encode_png;

use crate::api::files::attached;
use crate::api::{Answer, Shop, as_it_is};
use crate::print_shop::OrderWish;
use crate::printing::PrintedFiles;
use crate::problem::Problem;
use crate::types::{ListWish, ListedFiles, PrintWish, SheetStart};

pub(super) fn routes(config: &mut ServiceConfig) {
    config
        .route("/jobs/{job}/pieces/{piece}/sheets", web::get().to(begin))
        .route("/jobs/{job}/sheets/plan", web::post().to(plan))
        .route("/jobs/{job}/sheets/size", web::post().to(size))
        .route("/jobs/{job}/sheets/picture", web::post().to(picture))
        .route("/jobs/{job}/sheets/file", web::post().to(print))
        .route("/jobs/{job}/sheets/guide", web::post().to(guide))
        .route("/jobs/{job}/pieces/{piece}/list", web::get().to(list))
        .route("/jobs/{job}/pieces/{piece}/list", web::post().to(take_list))
        .route("/jobs/{job}/pieces/{piece}/list", web::put().to(match_list))
        .route("/jobs/{job}/pieces/{piece}/list", web::delete().to(drop_list))
        .route("/jobs/{job}/pieces/{piece}/list/picture", web::get().to(row_picture))
        .route("/jobs/{job}/pieces/{piece}/list/files", web::post().to(listed))
        .route("/work/{work}/printed", web::get().to(fetch))
        .route("/shop", web::get().to(shop_card))
        .route("/jobs/{job}/pieces/{piece}/quote", web::post().to(quote))
        .route("/jobs/{job}/pieces/{piece}/orders", web::post().to(order))
        .route("/jobs/{job}/orders", web::get().to(orders))
        .route("/orders/{order}/file", web::get().to(ordered))
        .route("/jobs/{job}/sides/{side}/proof", web::get().to(proof))
        .route("/jobs/{job}/sides/{side}/proof/picture", web::get().to(proof_picture))
        .route("/goods", web::get().to(all_goods))
        .route("/jobs/{job}/sides/{side}/worn", web::get().to(worn))
        .route("/jobs/{job}/sides/{side}/worn/picture", web::get().to(worn_picture));
}

type Of = Path<(JobId, PieceId)>;

async fn begin(shop: Shop, of: Of) -> Answer {
    shop.answer(move |shop| {
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

async fn plan(shop: Shop, job: Path<JobId>, wish: Json<PrintWish>) -> Answer {
    shop.answer_drawn(move |shop| shop.printing.card(&job, &wish)).await
}

#[derive(Deserialize)]
struct SizeQuery {
    across: u32,
    down: u32,
}

async fn size(shop: Shop, job: Path<JobId>, query: Query<SizeQuery>, wish: Json<PrintWish>) -> Answer {
    shop.answer_drawn(move |shop| shop.printing.size(&job, &wish, (query.across, query.down))).await
}

#[derive(Deserialize)]
struct FaceQuery {
    face: usize,
    w: u32,
}

async fn picture(shop: Shop, job: Path<JobId>, query: Query<FaceQuery>, wish: Json<PrintWish>) -> Answer {
    let png = shop.drawn(move |shop| shop.printing.picture(&job, &wish, query.face, query.w)).await?;
    Ok(as_it_is(&mut HttpResponse::Ok()).content_type("image/png").body(png))
}

async fn print(shop: Shop, job: Path<JobId>, wish: Json<PrintWish>) -> Answer {
    let card = shop.quick(move |shop| shop.printing.start(&shop.works, &job, wish.into_inner())).await?;
    Ok(HttpResponse::Accepted().json(card))
}

async fn guide(shop: Shop, job: Path<JobId>, wish: Json<PrintWish>) -> Answer {
    Ok(attached(shop.drawn(move |shop| shop.printing.guide(&job, &wish)).await?))
}

async fn list(shop: Shop, of: Of) -> Answer {
    shop.answer_drawn(move |shop| shop.printing.list(&of.0, &of.1)).await
}

#[derive(Deserialize)]
struct NameQuery {
    #[serde(default)]
    name: String,
}

async fn take_list(shop: Shop, of: Of, query: Query<NameQuery>, body: Result<Bytes, actix_web::Error>) -> Answer {
    let bytes = body.map_err(|_| Problem::too_large("A list holds up to 20 MB. Nothing was taken."))?;
    shop.answer_drawn(move |shop| shop.printing.take_list(&of.0, &of.1, &query.name, &bytes)).await
}

async fn match_list(shop: Shop, of: Of, wish: Json<ListWish>) -> Answer {
    shop.answer_drawn(move |shop| shop.printing.match_list(&of.0, &of.1, &wish)).await
}

async fn drop_list(shop: Shop, of: Of) -> Answer {
    shop.quick(move |shop| shop.printing.drop_list(&of.0, &of.1)).await?;
    Ok(HttpResponse::NoContent().finish())
}

#[derive(Deserialize)]
struct RowQuery {
    row: usize,
    #[serde(default)]
    side: usize,
    w: u32,
}

async fn row_picture(shop: Shop, of: Of, query: Query<RowQuery>) -> Answer {
    let wanted = (query.row, query.side, query.w);
    let png = shop.drawn(move |shop| shop.printing.row_picture(&of.0, &of.1, wanted)).await?;
    Ok(as_it_is(&mut HttpResponse::Ok()).content_type("image/png").body(png))
}

async fn listed(shop: Shop, of: Of, wish: Json<ListedFiles>) -> Answer {
    let card = shop.quick(move |shop| shop.printing.start_listed(&shop.works, &of.0, &of.1, wish.into_inner())).await?;
    Ok(HttpResponse::Accepted().json(card))
}

async fn fetch(shop: Shop, work: Path<String>) -> Answer {
    Ok(attached(shop.quick(move |shop| shop.works.result::<PrintedFiles>(&work)?.file()).await?))
}

async fn shop_card(shop: Shop) -> Answer {
    shop.answer(move |shop| Ok(shop.ordering.shop())).await
}

async fn quote(shop: Shop, of: Of, wish: Json<OrderWish>) -> Answer {
    shop.answer_drawn(move |shop| shop.ordering.quote(&of.0, &of.1, &wish)).await
}

async fn order(shop: Shop, of: Of, wish: Json<OrderWish>) -> Answer {
    shop.answer_drawn(move |shop| shop.ordering.order(&of.0, &of.1, wish.into_inner())).await
}

async fn orders(shop: Shop, job: Path<JobId>) -> Answer {
    shop.answer(move |shop| shop.ordering.orders(&job)).await
}

async fn ordered(shop: Shop, order: Path<String>) -> Answer {
    let bytes = shop.quick(move |shop| shop.ordering.file(&order)).await?;
    Ok(attached(OutputFile::beside("ordered.pdf", "application/pdf", bytes)))
}

type OfSide = Path<(JobId, SideId)>;

async fn proof(shop: Shop, of: OfSide) -> Answer {
    shop.answer_drawn(move |shop| {
        let job = shop.jobs.load(&of.0)?.job;
        let (piece, side) = crate::asking::find_side(&job, &of.1)?;
        Ok(proof_card(&shop.studio, &job, piece, side)?)
    })
    .await
}

async fn proof_picture(shop: Shop, of: OfSide, query: Query<crate::api::WidthQuery>) -> Answer {
    let png = shop.drawn(move |shop| {
        let job = shop.jobs.load(&of.0)?.job;
        let (piece, side) = crate::asking::find_side(&job, &of.1)?;
        Ok(encode_png(&soft_proof(&shop.studio, &job, piece, side, query.w.clamp(16, 2_400))?, 96)?)
    });
    Ok(as_it_is(&mut HttpResponse::Ok()).content_type("image/png").body(png.await?))
}

async fn all_goods() -> Json<&'static [Good]> {
    Json(goods())
}

#[derive(Deserialize)]
struct WornQuery {
    good: String,
    #[serde(default)]
    area: usize,
    colour: Color,
    #[serde(default)]
    w: u32,
}

impl WornQuery {
    fn found(&self) -> Result<(&'static Good, &'static GoodArea), Problem> {
        let good = goods().iter().find(|good| good.id == self.good);
        let found = good.and_then(|good| Some((good, good.areas.get(self.area)?)));
        found.ok_or_else(|| Problem::not_found("There is no such thing to print on."))
    }
}

async fn worn(shop: Shop, of: OfSide, query: Query<WornQuery>) -> Answer {
    shop.answer_drawn(move |shop| {
        let (_, area) = query.found()?;
        let job = shop.jobs.load(&of.0)?.job;
        let (piece, side) = crate::asking::find_side(&job, &of.1)?;
        Ok(cloth_card(&shop.studio, &job, (piece, side), area, query.colour)?)
    })
    .await
}

async fn worn_picture(shop: Shop, of: OfSide, query: Query<WornQuery>) -> Answer {
    let png = shop.drawn(move |shop| {
        let found = query.found()?;
        let job = shop.jobs.load(&of.0)?.job;
        let side = crate::asking::find_side(&job, &of.1)?;
        let how = (query.colour, query.w.clamp(64, 1_600));
        Ok(vatman_craft::worn_picture(&shop.studio, &job, side, found, how)?)
    });
    Ok(as_it_is(&mut HttpResponse::Ok()).content_type("image/png").body(png.await?))
}
