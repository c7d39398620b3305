//! The HTTP interface.


use actix_web::http::header::{self, CacheControl, CacheDirective};
use actix_web::middleware::from_fn;
use actix_web::web::{self, Data, Json, Path, Query, ServiceConfig};
use actix_web::{HttpResponse, HttpResponseBuilder};
use serde::Deserialize;
use serde_json::json;
use vatman_craft::{Likeness, OutputFile, Palette, PlaceFound, Words, zip_files};
use vatman_document::{AssetId, Color, ItemId, JobId, SideId};
use vatman_units::{Length, Measure, parse_length};

use crate::guard::local_only;
use crate::problem::Problem;
use crate::shipped::Shipped;
use crate::types::{ActRequest, DesignCard, DrawingCard, FileCard, GraphicsFound, HandOverRequest, MeasureRequest, MosaicRequest, PictureCard, StartRequest};
use crate::workshop::{Workshop, now};

/// Largest picture file, in bytes.
const PICTURE_BYTES: usize = 80 << 20;
/// Largest act or wish, in bytes.
const JSON_BYTES: usize = 4 << 20;

type Shared = Data<Workshop>;
type Answer = Result<HttpResponse, Problem>;

/// Runs blocking work off the async workers.
async fn blocking<T: Send + 'static>(work: impl FnOnce() -> Result<T, Problem> + Send + 'static) -> Result<T, Problem> {
    web::block(work).await.map_err(|error| Problem::internal(&error))?
}

/// All routes; used by the server and by tests alike.
pub fn configure(config: &mut ServiceConfig) {
    let json = web::JsonConfig::default().limit(JSON_BYTES).error_handler(|error, _| match error {
        actix_web::error::JsonPayloadError::OverflowKnownLength { .. } | actix_web::error::JsonPayloadError::Overflow { .. } => Problem::too_large("The request holds more than 4 MB. Nothing was changed.").into(),
        other => Problem::bad_request(format!("The request is not what is expected here: {other}. Nothing was changed.")).into(),
    });
    let query = web::QueryConfig::default().error_handler(|error, _| Problem::bad_request(format!("The address is not what is expected here: {error}.")).into());
    let path = web::PathConfig::default().error_handler(|error, _| Problem::not_found(format!("There is nothing at this address: {error}.")).into());
    config.app_data(json).app_data(query).app_data(path).app_data(web::PayloadConfig::new(PICTURE_BYTES)).service(
        web::scope("")
            .wrap(from_fn(local_only))
            .service(
                web::scope("/api")
                    .route("/jobs", web::get().to(board))
                    .route("/jobs", web::post().to(start))
                    .route("/jobs/{job}", web::get().to(open))
                    .route("/jobs/{job}", web::delete().to(remove))
                    .route("/jobs/{job}/restore", web::post().to(restore))
                    .route("/jobs/{job}/acts", web::post().to(act))
                    .route("/jobs/{job}/rehearse", web::post().to(rehearse))
                    .route("/jobs/{job}/sides/{side}", web::get().to(stage))
                    .route("/jobs/{job}/sides/{side}/colours", web::get().to(side_colours))
                    .route("/jobs/{job}/sides/{side}/picture", web::get().to(thumbnail))
                    .route("/jobs/{job}/findings", web::get().to(findings))
                    .route("/jobs/{job}/stops", web::post().to(stops))
                    .route("/jobs/{job}/clipping", web::post().to(clipping))
                    .route("/jobs/{job}/sides/{side}/arrangements", web::post().to(arrangements))
                    .route("/jobs/{job}/items/{item}/reading", web::get().to(reading))
                    .route("/jobs/{job}/files", web::post().to(files))
                    .route("/jobs/{job}/files/sizes", web::post().to(file_sizes))
                    .route("/places", web::get().to(places))
                    .route("/designs", web::get().to(designs))
                    .route("/designs/{design}/picture", web::get().to(design_picture))
                    .route("/graphics", web::get().to(graphics))
                    .route("/graphics/{graphic}", web::get().to(graphic))
                    .route("/drawings", web::post().to(read_drawing))
                    .route("/pictures", web::get().to(pictures))
                    .route("/pictures", web::post().to(take_picture))
                    .route("/jobs/{job}/items/{item}/alike", web::get().to(alike))
                    .route("/pictures/{picture}/colours", web::get().to(picture_colours))
                    .route("/palettes", web::get().to(palettes))
                    .route("/families", web::get().to(families))
                    .route("/families", web::post().to(take_font))
                    .route("/families/{family}", web::delete().to(drop_family))
                    .route("/measure", web::post().to(measure))
                    .route("/colour", web::post().to(colour))
                    .default_service(web::to(|| async { Err::<HttpResponse, _>(Problem::not_found("There is nothing at this address.")) })),
            )
            .route("/media/{picture}", web::get().to(media))
            .route("/type/{family}/{file}", web::get().to(font_file))
            .default_service(web::get().to(page)),
    );
}

fn kept_for_ever(builder: &mut HttpResponseBuilder) -> &mut HttpResponseBuilder {
    builder.insert_header(CacheControl(vec![CacheDirective::Private, CacheDirective::MaxAge(31_536_000), CacheDirective::Extension("immutable".into(), None)]))
}

async fn board(shop: Shared) -> Answer {
    Ok(HttpResponse::Ok().json(blocking(move || shop.board()).await?))
}

async fn start(shop: Shared, wish: Json<StartRequest>) -> Answer {
    let id = blocking(move || shop.start(&wish)).await?;
    Ok(HttpResponse::Created().json(json!({ "id": id })))
}

async fn open(shop: Shared, job: Path<JobId>) -> Answer {
    Ok(HttpResponse::Ok().json(blocking(move || shop.open(&job)).await?))
}

async fn set_removed(shop: Shared, job: JobId, removed: bool) -> Answer {
    let found = blocking(move || {
        let found = shop.store.set_removed(&job, removed.then(now))?;
        shop.forget(&job);
        Ok(found)
    })
    .await?;
    if found { Ok(HttpResponse::NoContent().finish()) } else { Err(Problem::not_found("There is no such job.")) }
}

async fn remove(shop: Shared, job: Path<JobId>) -> Answer {
    set_removed(shop, job.into_inner(), true).await
}

async fn restore(shop: Shared, job: Path<JobId>) -> Answer {
    set_removed(shop, job.into_inner(), false).await
}

async fn act(shop: Shared, job: Path<JobId>, request: Json<ActRequest>) -> Answer {
    Ok(HttpResponse::Ok().json(blocking(move || shop.act(&job, &request)).await?))
}

async fn rehearse(shop: Shared, job: Path<JobId>, request: Json<ActRequest>) -> Answer {
    Ok(HttpResponse::Ok().json(blocking(move || shop.rehearse(&job, &request)).await?))
}

async fn stops(shop: Shared, job: Path<JobId>, items: Json<Vec<ItemId>>) -> Answer {
    Ok(HttpResponse::Ok().json(blocking(move || shop.stops(&job, &items)).await?))
}

async fn clipping(shop: Shared, job: Path<JobId>, items: Json<Vec<ItemId>>) -> Answer {
    Ok(HttpResponse::Ok().json(blocking(move || shop.clipping(&job, &items)).await?))
}

async fn arrangements(shop: Shared, path: Path<(JobId, SideId)>, wish: Json<MosaicRequest>) -> Answer {
    Ok(HttpResponse::Ok().json(blocking(move || shop.mosaics(&path.0, &path.1, &wish)).await?))
}

async fn reading(shop: Shared, path: Path<(JobId, ItemId)>) -> Answer {
    Ok(HttpResponse::Ok().json(blocking(move || shop.reading(&path.0, &path.1)).await?))
}

#[derive(Deserialize)]
struct ColourQuery {
    of: Option<Color>,
}

async fn side_colours(shop: Shared, path: Path<(JobId, SideId)>, query: Query<ColourQuery>) -> Answer {
    Ok(HttpResponse::Ok().json(blocking(move || shop.colours(&path.0, &path.1, query.of)).await?))
}

#[derive(Deserialize)]
struct StageQuery {
    carets: Option<ItemId>,
}

async fn stage(shop: Shared, path: Path<(JobId, SideId)>, query: Query<StageQuery>) -> Answer {
    Ok(HttpResponse::Ok().json(blocking(move || shop.stage(&path.0, &path.1, query.carets.as_ref())).await?))
}

#[derive(Deserialize)]
struct WidthQuery {
    w: u32,
}

async fn thumbnail(shop: Shared, path: Path<(JobId, SideId)>, query: Query<WidthQuery>) -> Answer {
    // The address carries the revision, so the answer never changes.
    let png = blocking(move || shop.thumbnail(&path.0, &path.1, query.w)).await?;
    Ok(kept_for_ever(&mut HttpResponse::Ok()).content_type("image/png").body(png))
}

async fn files(shop: Shared, job: Path<JobId>, wish: Json<HandOverRequest>) -> Answer {
    let file = blocking(move || {
        let mut files = shop.hand_over(&job, &wish)?;
        if files.len() == 1 {
            return Ok(files.swap_remove(0));
        }
        let name = format!("{}.zip", vatman_craft::slug(&shop.job(&job)?.title));
        Ok(OutputFile { name, media_type: "application/zip", bytes: zip_files(&files)? })
    })
    .await?;
    let disposition = format!("attachment; filename=\"{}\"", file.name);
    Ok(HttpResponse::Ok().content_type(file.media_type).insert_header((header::CONTENT_DISPOSITION, disposition)).body(file.bytes))
}

async fn file_sizes(shop: Shared, job: Path<JobId>, wish: Json<HandOverRequest>) -> Answer {
    let files = blocking(move || shop.hand_over(&job, &wish)).await?;
    Ok(HttpResponse::Ok().json(files.iter().map(|file| FileCard { name: file.name.clone(), bytes: file.bytes.len() }).collect::<Vec<_>>()))
}

#[derive(Deserialize)]
struct SearchQuery {
    #[serde(default)]
    q: String,
}

async fn places(shop: Shared, query: Query<SearchQuery>) -> Json<PlaceFound> {
    Json(shop.places.search(&query.q))
}

async fn designs(shop: Shared) -> Json<Vec<DesignCard>> {
    let card = |design: &vatman_craft::Design| DesignCard { id: design.id.clone(), name: design.name.clone(), about: design.about.clone(), keywords: design.keywords.clone() };
    Json(shop.designs.iter().map(card).collect())
}

#[derive(Deserialize)]
struct DesignQuery {
    place: String,
    #[serde(default)]
    words: String,
    w: u32,
}

async fn design_picture(shop: Shared, design: Path<String>, query: Query<DesignQuery>) -> Answer {
    let png = blocking(move || {
        let words: Words = if query.words.is_empty() { Words::new() } else { serde_json::from_str(&query.words).map_err(|error| Problem::bad_request(format!("The words cannot be read: {error}.")))? };
        shop.design_picture(&design, &query.place, &words, query.w)
    })
    .await?;
    Ok(HttpResponse::Ok().content_type("image/png").insert_header(CacheControl(vec![CacheDirective::Private, CacheDirective::MaxAge(600)])).body(png))
}

async fn pictures(shop: Shared) -> Answer {
    let rows = blocking(move || shop.store.pictures().map_err(Problem::from)).await?;
    let card = |row: crate::store::PictureRow| PictureCard { id: row.id, name: row.name, width: row.width, height: row.height, sample: row.sample };
    Ok(HttpResponse::Ok().json(rows.into_iter().map(card).collect::<Vec<_>>()))
}

#[derive(Deserialize)]
struct NameQuery {
    #[serde(default)]
    name: String,
}

async fn take_picture(shop: Shared, query: Query<NameQuery>, body: Result<web::Bytes, actix_web::Error>) -> Answer {
    let bytes = body.map_err(|_| Problem::too_large("A picture file holds at most 80 MB. Bring a smaller copy; nothing else was changed."))?;
    let name = if query.name.is_empty() { "Pasted picture".to_owned() } else { query.name.clone() };
    let (id, width, height) = blocking(move || shop.take_picture(&query.name, &bytes)).await?;
    let card = PictureCard { id: id.to_string(), name, width: width as i32, height: height as i32, sample: false };
    Ok(HttpResponse::Created().json(card))
}

#[derive(Deserialize)]
struct GraphicQuery {
    #[serde(default)]
    q: String,
    set: Option<String>,
    #[serde(default)]
    from: usize,
}

async fn graphics(shop: Shared, query: Query<GraphicQuery>) -> Answer {
    let found = blocking(move || {
        let shelf = shop.graphics()?;
        Ok(GraphicsFound { sets: shelf.sets(), graphics: shelf.search(&query.q, query.set.as_deref(), query.from, 60) })
    })
    .await?;
    Ok(HttpResponse::Ok().json(found))
}

/// A graphic of the shelf as an SVG file; it only changes with the program.
async fn graphic(shop: Shared, id: Path<String>) -> Answer {
    let (svg, _) = shop.graphics()?.svg(&id).ok_or_else(|| Problem::not_found("There is no such graphic on the shelf."))?;
    Ok(HttpResponse::Ok().content_type("image/svg+xml").insert_header(CacheControl(vec![CacheDirective::Private, CacheDirective::MaxAge(86_400)])).body(svg))
}

async fn read_drawing(shop: Shared, query: Query<NameQuery>, body: Result<web::Bytes, actix_web::Error>) -> Answer {
    let bytes = body.map_err(|_| Problem::too_large("An SVG file holds at most 8 MB. Simplify it; nothing else was changed."))?;
    let read = blocking(move || shop.read_drawing(&bytes, &query.name)).await?;
    Ok(HttpResponse::Ok().json(DrawingCard { drawing: read.drawing, layers: read.layers, notes: read.notes }))
}

async fn families(shop: Shared) -> Answer {
    Ok(HttpResponse::Ok().json(shop.studio.typesetter.library().families()))
}

async fn take_font(shop: Shared, body: Result<web::Bytes, actix_web::Error>) -> Answer {
    let bytes = body.map_err(|_| Problem::too_large("A font file holds at most 30 MB. Nothing was added."))?;
    Ok(HttpResponse::Created().json(blocking(move || shop.take_font(&bytes)).await?))
}

async fn drop_family(shop: Shared, family: Path<String>) -> Answer {
    blocking(move || shop.drop_family(&family)).await?;
    Ok(HttpResponse::NoContent().finish())
}

async fn findings(shop: Shared, job: Path<JobId>) -> Answer {
    Ok(HttpResponse::Ok().json(blocking(move || shop.findings(&job)).await?))
}

#[derive(Deserialize)]
struct AlikeQuery {
    by: Likeness,
}

async fn alike(shop: Shared, path: Path<(JobId, ItemId)>, query: Query<AlikeQuery>) -> Answer {
    Ok(HttpResponse::Ok().json(blocking(move || shop.alike(&path.0, &path.1, query.by)).await?))
}

async fn picture_colours(shop: Shared, picture: Path<AssetId>) -> Answer {
    Ok(HttpResponse::Ok().json(blocking(move || shop.picture_colours(&picture)).await?))
}

async fn palettes() -> Json<Vec<Palette>> {
    Json(vatman_craft::palettes())
}

async fn measure(request: Json<MeasureRequest>) -> Result<Json<Length>, Problem> {
    let measure = Measure { unit: request.unit, ppi: request.ppi, whole: request.whole };
    Ok(Json(parse_length(&request.text, measure)?))
}

/// Reads a colour as typed.
async fn colour(text: Json<String>) -> Result<Json<Color>, Problem> {
    Ok(Json(text.parse()?))
}

async fn media(shop: Shared, picture: Path<AssetId>, query: Query<WidthQuery>) -> Answer {
    let (bytes, media_type) = blocking(move || shop.media(&picture, query.w)).await?;
    Ok(kept_for_ever(&mut HttpResponse::Ok()).content_type(media_type).body(bytes))
}

async fn font_file(shop: Shared, path: Path<(String, String)>) -> Answer {
    let library = shop.studio.typesetter.library();
    let bytes = library.file(&format!("{}/{}", path.0, path.1)).ok_or_else(|| Problem::not_found("There is no such typeface."))?.to_vec();
    Ok(kept_for_ever(&mut HttpResponse::Ok()).content_type("font/ttf").body(bytes))
}

/// Files of the front end; every other address is a page of it.
async fn page(request: actix_web::HttpRequest) -> Answer {
    let path = request.path().trim_start_matches('/');
    if let Some((bytes, media_type)) = Shipped.web(path).filter(|_| !path.is_empty()) {
        let mut response = HttpResponse::Ok();
        // Files under assets/ carry a hash of their content in their name.
        if path.starts_with("assets/") {
            kept_for_ever(&mut response);
        }
        return Ok(response.content_type(media_type).body(bytes.into_owned()));
    }
    let (bytes, media_type) = Shipped.web("index.html").ok_or_else(|| Problem::not_found("This program was built without its pages. Build it with \u{201c}make build\u{201d}."))?;
    Ok(HttpResponse::Ok().content_type(media_type).insert_header(CacheControl(vec![CacheDirective::NoStore])).body(bytes.into_owned()))
}
