//! The darkroom: what it offers, prints, recipes, and pictures of what only pixels can show on the stage.

use actix_web::HttpResponse;
use actix_web::http::header::{self, CacheControl, CacheDirective};
use actix_web::web::{self, Bytes, Json, Path, Query, ServiceConfig};
use serde::Deserialize;
use vatman_craft::{Recipe, TraceWish, slug};
use vatman_document::{GroupId, ItemId, JobId, SideId};
use vatman_output::ScenePart;
use vatman_photo::encode_png;

use crate::api::{Answer, Shop, as_it_is};
use crate::cutting::{FoundSubject, Sought};
use crate::darkroom::offered;
use crate::problem::Problem;
use crate::types::{DarkroomCard, PrintRequest};

pub(super) fn routes(config: &mut ServiceConfig) {
    config
        .route("/darkroom", web::get().to(darkroom))
        .route("/jobs/{job}/items/{item}/print", web::post().to(print))
        .route("/jobs/{job}/items/{item}/subject", web::post().to(find_subject))
        .route("/work/{work}/subject", web::get().to(found_subject))
        .route("/jobs/{job}/items/{item}/recipe", web::get().to(recipe_file))
        .route("/jobs/{job}/items/{item}/recipe", web::put().to(keep_recipe))
        .route("/jobs/{job}/items/{item}/recipe/code", web::get().to(recipe_code))
        .route("/jobs/{job}/items/{item}/traced", web::get().to(traced))
        .route("/recipes/code", web::post().to(read_code))
        .route("/jobs/{job}/items/{item}/recipes", web::get().to(recipes))
        .route("/jobs/{job}/sides/{side}/parts/{kind}/{id}", web::get().to(part))
        .route("/recipes/read", web::post().to(read_recipe));
}

async fn darkroom() -> Json<DarkroomCard> {
    Json(offered())
}

/// The group an item is treated with, where that is treated as a whole.
#[derive(Deserialize)]
struct GroupQuery {
    group: Option<GroupId>,
}

async fn print(shop: Shop, path: Path<(JobId, ItemId)>, query: Query<GroupQuery>, wish: Json<PrintRequest>) -> Answer {
    shop.answer_drawn(move |shop| shop.asking.print(&path.0, &path.1, query.group.as_ref(), &wish)).await
}

/// Starts to find the subject of a picture.
async fn find_subject(shop: Shop, path: Path<(JobId, ItemId)>, query: Query<SoughtQuery>) -> Answer {
    shop.answer(move |shop| shop.find_subject(&path.0, &path.1, query.of)).await
}

#[derive(Deserialize)]
struct SoughtQuery {
    #[serde(default)]
    of: Sought,
}

/// What was found.
async fn found_subject(shop: Shop, work: Path<String>) -> Answer {
    shop.answer(move |shop| Ok(shop.works.result::<FoundSubject>(&work)?.as_ref().clone())).await
}

#[derive(Deserialize)]
struct RecipeQuery {
    name: String,
    group: Option<GroupId>,
}

/// What is done to something, as a file that can be handed on.
async fn recipe_file(shop: Shop, path: Path<(JobId, ItemId)>, query: Query<RecipeQuery>) -> Answer {
    let RecipeQuery { name, group } = query.into_inner();
    let recipe = shop.quick(move |shop| shop.asking.recipe_of(&path.0, &path.1, group.as_ref(), &name)).await?;
    let file = format!("attachment; filename=\"{}.recipe.json\"", slug(&recipe.name));
    Ok(HttpResponse::Ok()
        .insert_header((header::CONTENT_DISPOSITION, file))
        .insert_header((header::CONTENT_TYPE, "application/json"))
        .body(recipe.written()))
}

/// Keeps what is done to something as a recipe, for all jobs.
async fn keep_recipe(shop: Shop, path: Path<(JobId, ItemId)>, query: Query<RecipeQuery>) -> Answer {
    let RecipeQuery { name, group } = query.into_inner();
    shop.quick(move |shop| {
        let recipe = shop.asking.recipe_of(&path.0, &path.1, group.as_ref(), &name)?;
        shop.shelves.keeping.keep_recipe(&recipe)
    })
    .await?;
    Ok(HttpResponse::NoContent().finish())
}

/// What is done to something, as a code that can be scanned.
async fn recipe_code(shop: Shop, path: Path<(JobId, ItemId)>, query: Query<RecipeQuery>) -> Answer {
    let RecipeQuery { name, group } = query.into_inner();
    shop.answer(move |shop| shop.asking.recipe_code(&path.0, &path.1, group.as_ref(), &name)).await
}

/// The recipe of a code in a picture.
async fn read_code(shop: Shop, picture: Bytes) -> Answer {
    let recipe = shop.stranger(move |shop, wanted| shop.shelves.workers.code(&picture, wanted)).await?;
    Ok(HttpResponse::Ok().json(recipe))
}

async fn traced(shop: Shop, path: Path<(JobId, ItemId)>, wish: Query<TraceWish>) -> Answer {
    shop.answer_drawn(move |shop| shop.asking.traced(&path.0, &path.1, *wish)).await
}

async fn read_recipe(shop: Shop, file: Json<String>) -> Answer {
    shop.answer(move |_| Recipe::read(&file).map_err(|error| Problem::value(error.to_string()))).await
}

#[derive(Deserialize)]
struct RecipesQuery {
    w: u32,
    group: Option<GroupId>,
}

async fn recipes(shop: Shop, path: Path<(JobId, ItemId)>, query: Query<RecipesQuery>) -> Answer {
    shop.answer_drawn(move |shop| shop.asking.recipes(&path.0, &path.1, query.group.as_ref(), query.w)).await
}

#[derive(Deserialize)]
struct PartQuery {
    w: u32,
    /// What it looked like when the address was given, in hexadecimal.
    stamp: String,
}

async fn part(shop: Shop, path: Path<(JobId, SideId, String, String)>, query: Query<PartQuery>) -> Answer {
    let (job, side, kind, id) = path.into_inner();
    let gone = || Problem::not_found("That part of the sheet is not there any more.");
    let (png, same) = shop
        .drawn(move |shop| {
            let stamp = u64::from_str_radix(&query.stamp, 16).unwrap_or(0);
            let (group, item);
            let part = if kind == "bunch" {
                group = GroupId::new(id)?;
                ScenePart::Bunch(&group)
            } else {
                item = ItemId::new(id)?;
                ScenePart::Behind(&item)
            };
            let (pixels, same) = shop.part(&job, &side, part, (query.w.clamp(1, 4_096), stamp))?.ok_or_else(gone)?;
            let png = encode_png(&pixels.straight(), 96).map_err(|error| Problem::value(error.to_string()))?;
            Ok((png, same))
        })
        .await?;
    // A later state of the sheet than the one the address was given for is shown, but not kept.
    let kept = if same {
        vec![CacheDirective::Private, CacheDirective::MaxAge(31_536_000)]
    } else {
        vec![CacheDirective::NoStore]
    };
    let mut response = HttpResponse::Ok();
    Ok(as_it_is(&mut response).insert_header(CacheControl(kept)).content_type("image/png").body(png))
}
