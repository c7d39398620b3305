//! The shelves: places, designs, pictures, graphics, fonts.

use actix_web::HttpResponse;
use actix_web::http::header::{CacheControl, CacheDirective};
use actix_web::web::{self, Bytes, Json, Path, Query, ServiceConfig};
use serde::Deserialize;
use vatman_craft::{Grid, OwnFormat, Palette, PlaceFound, SheetSetup, Words, guide_marks, ranked};
use vatman_document::AssetId;

use crate::api::{Answer, Shop, as_it_is};
use crate::problem::Problem;
use crate::types::{DesignCard, DrawingCard, GraphicsFound, GridCard, PictureCard};

pub(super) fn routes(config: &mut ServiceConfig) {
    config
        .route("/places", web::get().to(places))
        .route("/grids", web::get().to(grids))
        .route("/designs", web::get().to(designs))
        .route("/designs/{design}/picture", web::get().to(design_picture))
        .route("/graphics", web::get().to(graphics))
        .route("/graphics/{graphic}", web::get().to(graphic))
        .route("/drawings", web::post().to(read_drawing))
        .route("/pictures", web::get().to(pictures))
        .route("/pictures", web::post().to(take_picture))
        .route("/pictures/{picture}/colours", web::get().to(picture_colours))
        .route("/palettes", web::get().to(palettes))
        .route("/families", web::get().to(families))
        .route("/families", web::post().to(take_font))
        .route("/families/{family}", web::delete().to(drop_family))
        .route("/kept", web::get().to(kept))
        .route("/kept/sets/{name}", web::put().to(keep_set))
        .route("/kept/formats/{name}", web::put().to(keep_format))
        .route("/kept/words/{name}", web::put().to(keep_word))
        .route("/kept/names", web::put().to(keep_names))
        .route("/kept/sheets/{name}", web::put().to(keep_setup))
        .route("/kept/{kind}/{name}", web::delete().to(let_go));
}

type Body = Result<Bytes, actix_web::Error>;

fn private(seconds: u32) -> CacheControl {
    CacheControl(vec![CacheDirective::Private, CacheDirective::MaxAge(seconds)])
}

#[derive(Deserialize)]
struct SearchQuery {
    #[serde(default)]
    q: String,
}

async fn places(shop: Shop, query: Query<SearchQuery>) -> Json<PlaceFound> {
    Json(shop.shelves.keeping.places().search(&query.q))
}

#[derive(Deserialize)]
struct GridsQuery {
    place: String,
}

async fn grids(shop: Shop, query: Query<GridsQuery>) -> Result<Json<Vec<GridCard>>, Problem> {
    let format = shop.shelves.place(&query.place)?.format;
    let card = |(grid, name): (Grid, &'static str)| GridCard {
        grid,
        name,
        size: format.size,
        marks: guide_marks(&grid.guides(&format), format.size),
    };
    Ok(Json(Grid::ALL.into_iter().map(card).collect()))
}

#[derive(Deserialize)]
struct DesignsQuery {
    /// What was typed.
    #[serde(default)]
    q: String,
    /// Catalogue entries or sizes as typed, each on a line.
    #[serde(default)]
    places: String,
}

async fn designs(shop: Shop, query: Query<DesignsQuery>) -> Json<Vec<DesignCard>> {
    let places: Vec<_> = query.places.lines().filter_map(|place| shop.shelves.place(place).ok()).collect();
    let card = |design: &vatman_craft::Design| DesignCard {
        id: design.id.clone(),
        name: design.name.clone(),
        about: design.about.clone(),
        keywords: design.keywords.clone(),
    };
    Json(ranked(&shop.shelves.designs, &places, &query.q).into_iter().map(card).collect())
}

#[derive(Deserialize)]
struct DesignQuery {
    place: String,
    #[serde(default)]
    words: String,
    w: u32,
}

async fn design_picture(shop: Shop, design: Path<String>, query: Query<DesignQuery>) -> Answer {
    let png = shop
        .drawn(move |shop| {
            let unread = |error: serde_json::Error| Problem::bad_request(format!("The words cannot be read: {error}."));
            let words: Words = if query.words.is_empty() {
                Words::new()
            } else {
                serde_json::from_str(&query.words).map_err(unread)?
            };
            shop.shelves.design_picture(&design, &query.place, &words, query.w)
        })
        .await?;
    Ok(as_it_is(&mut HttpResponse::Ok())
        .content_type("image/png")
        .insert_header(private(600))
        .body(png.as_ref().clone()))
}

async fn pictures(shop: Shop) -> Answer {
    let card = |row: crate::store::PictureRow| PictureCard {
        id: row.id,
        name: row.name,
        width: row.width,
        height: row.height,
        sample: row.sample,
    };
    shop.answer(move |shop| Ok(shop.store.pictures()?.into_iter().map(card).collect::<Vec<_>>())).await
}

#[derive(Deserialize)]
struct NameQuery {
    #[serde(default)]
    name: String,
}

async fn take_picture(shop: Shop, query: Query<NameQuery>, body: Body) -> Answer {
    let bytes = body.map_err(|_| {
        Problem::too_large("A picture file holds at most 80 MB. Bring a smaller copy; nothing else was changed.")
    })?;
    let name = if query.name.is_empty() { "Pasted picture".to_owned() } else { query.name.clone() };
    let taken = shop.stranger(move |shop, wanted| shop.shelves.take_picture(&query.name, &bytes, wanted));
    let (id, width, height) = taken.await?;
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

async fn graphics(shop: Shop, query: Query<GraphicQuery>) -> Answer {
    shop.answer(move |shop| {
        let shelf = shop.shelves.graphics()?;
        let graphics = shelf.search(&query.q, query.set.as_deref(), query.from, 60);
        Ok(GraphicsFound { sets: shelf.sets(), graphics })
    })
    .await
}

/// A graphic of the shelf as an SVG file; it only changes with the program.
async fn graphic(shop: Shop, id: Path<String>) -> Answer {
    let found = shop.shelves.graphics()?.svg(&id);
    let (svg, _) = found.ok_or_else(|| Problem::not_found("There is no such graphic on the shelf."))?;
    Ok(HttpResponse::Ok().content_type("image/svg+xml").insert_header(private(86_400)).body(svg))
}

async fn read_drawing(shop: Shop, query: Query<NameQuery>, body: Body) -> Answer {
    let bytes =
        body.map_err(|_| Problem::too_large("An SVG file holds at most 8 MB. Simplify it; nothing else was changed."))?;
    let read = shop.stranger(move |shop, wanted| shop.shelves.read_drawing(&bytes, &query.name, wanted)).await?;
    Ok(HttpResponse::Ok().json(DrawingCard { drawing: read.drawing, layers: read.layers, notes: read.notes }))
}

async fn picture_colours(shop: Shop, picture: Path<AssetId>) -> Answer {
    shop.answer_drawn(move |shop| shop.shelves.picture_colours(&picture)).await
}

async fn palettes() -> Json<Vec<Palette>> {
    Json(vatman_craft::palettes())
}

async fn families(shop: Shop) -> Answer {
    Ok(HttpResponse::Ok().json(shop.studio.typesetter.library().families()))
}

async fn take_font(shop: Shop, body: Body) -> Answer {
    let bytes = body.map_err(|_| Problem::too_large("A font file holds at most 30 MB. Nothing was added."))?;
    Ok(HttpResponse::Created().json(shop.stranger(move |shop, wanted| shop.shelves.take_font(&bytes, wanted)).await?))
}

async fn drop_family(shop: Shop, family: Path<String>) -> Answer {
    shop.quick(move |shop| shop.shelves.drop_family(&family)).await?;
    Ok(HttpResponse::NoContent().finish())
}

async fn kept(shop: Shop) -> Answer {
    shop.answer(move |shop| shop.shelves.keeping.all()).await
}

async fn keep_set(shop: Shop, name: Path<String>, places: Json<Vec<String>>) -> Answer {
    shop.quick(move |shop| shop.shelves.keeping.keep_set(&name, &places)).await?;
    Ok(HttpResponse::NoContent().finish())
}

async fn keep_format(shop: Shop, name: Path<String>, format: Json<OwnFormat>) -> Answer {
    shop.answer(move |shop| shop.shelves.keeping.keep_format(&name, &format)).await
}

async fn keep_word(shop: Shop, word: Path<String>) -> Answer {
    shop.quick(move |shop| shop.shelves.keeping.keep_word(&word)).await?;
    Ok(HttpResponse::NoContent().finish())
}

async fn keep_names(shop: Shop, pattern: Json<String>) -> Answer {
    shop.quick(move |shop| shop.shelves.keeping.keep_names(&pattern)).await?;
    Ok(HttpResponse::NoContent().finish())
}

async fn let_go(shop: Shop, what: Path<(String, String)>) -> Answer {
    shop.quick(move |shop| shop.shelves.keeping.let_go(&what.0, &what.1)).await?;
    Ok(HttpResponse::NoContent().finish())
}

async fn keep_setup(shop: Shop, name: Path<String>, setup: Json<SheetSetup>) -> Answer {
    shop.quick(move |shop| shop.shelves.keeping.keep_setup(&name, &setup)).await?;
    Ok(HttpResponse::NoContent().finish())
}
