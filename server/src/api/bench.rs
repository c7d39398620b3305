//! The bench: acts, the stage, and questions about an open job.

use actix_web::HttpResponse;
use actix_web::http::header::{self, CacheControl, CacheDirective, ETag, EntityTag, IfNoneMatch};
use actix_web::web::{self, Json, Path, Query, ServiceConfig};
use serde::Deserialize;
use vatman_craft::{Eyes, Likeness, eyes};
use vatman_document::{Color, ItemId, JobId, PieceId, SideId};
use vatman_photo::content_id;
use vatman_units::{Length, Measure, Point, parse_length};

use crate::api::{Answer, Shop, WidthQuery, as_it_is};
use crate::types::{ActRequest, MeasureRequest, MosaicRequest, SinceQuery, Typed, WaysQuery};

pub(super) fn routes(config: &mut ServiceConfig) {
    config
        .route("/jobs/{job}/acts", web::post().to(act))
        .route("/jobs/{job}/rehearse", web::post().to(rehearse))
        .route("/jobs/{job}/since/{revision}", web::get().to(since))
        .route("/jobs/{job}/sides/{side}", web::get().to(stage))
        .route("/jobs/{job}/sides/{side}/colours", web::get().to(side_colours))
        .route("/jobs/{job}/sides/{side}/picture", web::get().to(thumbnail))
        .route("/jobs/{job}/sides/{side}/at", web::get().to(item_at))
        .route("/jobs/{job}/sides/{side}/arrangements", web::post().to(arrangements))
        .route("/jobs/{job}/findings", web::get().to(findings))
        .route("/jobs/{job}/check", web::get().to(check))
        .route("/jobs/{job}/check/files", web::get().to(check_files))
        .route("/jobs/{job}/seen", web::get().to(seen))
        .route("/eyes", web::get().to(sights))
        .route("/jobs/{job}/designs/{design}/picture", web::get().to(redesigned))
        .route("/jobs/{job}/repeats", web::get().to(repeats))
        .route("/jobs/{job}/repeats/{piece}/picture", web::get().to(repeated))
        .route("/jobs/{job}/ways", web::get().to(ways))
        .route("/jobs/{job}/ways/picture", web::get().to(way_picture))
        .route("/jobs/{job}/stops", web::post().to(stops))
        .route("/jobs/{job}/clipping", web::post().to(clipping))
        .route("/jobs/{job}/items/{item}/reading", web::get().to(reading))
        .route("/jobs/{job}/items/{item}/alike", web::get().to(alike))
        .route("/jobs/{job}/items/{item}/lock-ups", web::get().to(lock_ups))
        .route("/measure", web::post().to(measure))
        .route("/colour", web::post().to(colour));
}

async fn act(shop: Shop, job: Path<JobId>, request: Json<ActRequest>) -> Answer {
    shop.answer(move |shop| shop.acting.act(&job, &request)).await
}

async fn rehearse(shop: Shop, job: Path<JobId>, request: Json<ActRequest>) -> Answer {
    shop.answer(move |shop| shop.acting.rehearse(&job, &request)).await
}

/// What changed since a revision; nothing where a window has to open the job anew.
async fn since(shop: Shop, path: Path<(JobId, i64)>, query: Query<SinceQuery>) -> Answer {
    shop.answer(move |shop| shop.acting.since(&path.0, path.1, &query)).await
}

async fn check(shop: Shop, job: Path<JobId>) -> Answer {
    shop.answer_drawn(move |shop| shop.asking.check(&job)).await
}

#[derive(Deserialize)]
struct PointQuery {
    x: Length,
    y: Length,
}

async fn item_at(shop: Shop, path: Path<(JobId, SideId)>, query: Query<PointQuery>) -> Answer {
    shop.answer(move |shop| shop.asking.item_at(&path.0, &path.1, Point { x: query.x, y: query.y })).await
}

async fn check_files(shop: Shop, job: Path<JobId>) -> Answer {
    shop.answer_drawn(move |shop| shop.check_files(&job)).await
}

async fn seen(shop: Shop, job: Path<JobId>) -> Answer {
    shop.answer_drawn(move |shop| shop.asking.seen(&job)).await
}

async fn sights() -> Json<Vec<Eyes>> {
    Json(eyes())
}

async fn ways(shop: Shop, job: Path<JobId>, query: Query<WaysQuery>) -> Answer {
    shop.answer_drawn(move |shop| shop.ways(&job, &query)).await
}

#[derive(Deserialize)]
struct RedesignedQuery {
    piece: PieceId,
    w: u32,
}

async fn redesigned(shop: Shop, path: Path<(JobId, String)>, query: Query<RedesignedQuery>) -> Answer {
    let png = shop.drawn(move |shop| shop.redesigned_picture(&path.0, &path.1, &query.piece, query.w)).await?;
    Ok(passing(png.as_ref().clone()))
}

async fn repeats(shop: Shop, job: Path<JobId>) -> Answer {
    shop.answer(move |shop| shop.repeats(&job)).await
}

async fn repeated(shop: Shop, path: Path<(JobId, PieceId)>, query: Query<WidthQuery>) -> Answer {
    let png = shop.drawn(move |shop| shop.repeated_picture(&path.0, &path.1, query.w)).await?;
    Ok(passing(png.as_ref().clone()))
}

/// A picture of what is only looked at, which the browser may keep for a while.
fn passing(png: Vec<u8>) -> HttpResponse {
    let mut response = HttpResponse::Ok();
    as_it_is(&mut response)
        .insert_header(CacheControl(vec![CacheDirective::Private, CacheDirective::MaxAge(600)]))
        .insert_header((header::CONTENT_TYPE, "image/png"))
        .body(png)
}

/// A piece as it would be; the page names the revision it is of, so that it can be kept.
async fn way_picture(shop: Shop, job: Path<JobId>, query: Query<WaysQuery>) -> Answer {
    let png = shop.drawn(move |shop| shop.way_picture(&job, &query)).await?;
    Ok(passing(png.as_ref().clone()))
}

async fn stops(shop: Shop, job: Path<JobId>, items: Json<Vec<ItemId>>) -> Answer {
    shop.answer(move |shop| shop.asking.stops(&job, &items)).await
}

async fn clipping(shop: Shop, job: Path<JobId>, items: Json<Vec<ItemId>>) -> Answer {
    shop.answer(move |shop| shop.asking.clipping(&job, &items)).await
}

async fn arrangements(shop: Shop, path: Path<(JobId, SideId)>, wish: Json<MosaicRequest>) -> Answer {
    shop.answer_drawn(move |shop| shop.asking.mosaics(&path.0, &path.1, &wish)).await
}

async fn reading(shop: Shop, path: Path<(JobId, ItemId)>) -> Answer {
    shop.answer(move |shop| shop.asking.reading(&path.0, &path.1)).await
}

async fn lock_ups(shop: Shop, path: Path<(JobId, ItemId)>) -> Answer {
    shop.answer_drawn(move |shop| shop.asking.lock_ups(&path.0, &path.1)).await
}

async fn findings(shop: Shop, job: Path<JobId>) -> Answer {
    shop.answer(move |shop| shop.asking.findings(&job)).await
}

#[derive(Deserialize)]
struct AlikeQuery {
    by: Likeness,
}

async fn alike(shop: Shop, path: Path<(JobId, ItemId)>, query: Query<AlikeQuery>) -> Answer {
    shop.answer(move |shop| shop.asking.alike(&path.0, &path.1, query.by)).await
}

#[derive(Deserialize)]
struct ColourQuery {
    of: Option<Color>,
}

async fn side_colours(shop: Shop, path: Path<(JobId, SideId)>, query: Query<ColourQuery>) -> Answer {
    shop.answer(move |shop| shop.asking.colours(&path.0, &path.1, query.of)).await
}

#[derive(Deserialize)]
struct StageQuery {
    carets: Option<ItemId>,
}

async fn stage(shop: Shop, path: Path<(JobId, SideId)>, query: Query<StageQuery>) -> Answer {
    shop.answer(move |shop| shop.stage(&path.0, &path.1, query.carets.as_ref())).await
}

/// A small picture of a side. It is asked for again each time and sent anew only where something about it changed, be it the job
/// or the typefaces at hand.
async fn thumbnail(
    shop: Shop,
    path: Path<(JobId, SideId)>,
    query: Query<WidthQuery>,
    known: web::Header<IfNoneMatch>,
) -> Answer {
    let width = query.w;
    let (key, png) = shop
        .drawn(move |shop| {
            let key = shop.thumbnail_key(&path.0, &path.1, width)?;
            let tag = EntityTag::new_strong(content_id(key.as_bytes()).to_string());
            let same = match &known.0 {
                IfNoneMatch::Any => false,
                IfNoneMatch::Items(tags) => tags.iter().any(|known| known.weak_eq(&tag)),
            };
            let png = if same { None } else { Some(shop.thumbnail(&path.0, &path.1, width)?) };
            Ok((tag, png))
        })
        .await?;
    let mut response = if png.is_some() { HttpResponse::Ok() } else { HttpResponse::NotModified() };
    as_it_is(&mut response)
        .insert_header(CacheControl(vec![CacheDirective::Private, CacheDirective::NoCache]))
        .insert_header(ETag(key));
    Ok(match png {
        Some(png) => response.insert_header((header::CONTENT_TYPE, "image/png")).body(png.as_ref().clone()),
        None => response.finish(),
    })
}

async fn measure(request: Json<MeasureRequest>) -> Json<Typed<Length>> {
    let measure = Measure { unit: request.unit, ppi: request.ppi, whole: request.whole };
    Json(Typed::of(parse_length(&request.text, measure)))
}

/// Reads a colour as typed.
async fn colour(text: Json<String>) -> Json<Typed<Color>> {
    Json(Typed::of(text.parse()))
}
