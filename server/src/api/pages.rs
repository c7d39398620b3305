//! The pages themselves, and the files they are made of.

use actix_web::http::header::{CacheControl, CacheDirective};
use actix_web::web::{self, Path, Query, ServiceConfig};
use actix_web::{HttpRequest, HttpResponse};
use vatman_document::AssetId;

use crate::api::{Answer, MediaQuery, Shop, as_it_is, kept_for_ever};
use crate::problem::Problem;
use crate::shipped::Shipped;

pub(super) fn routes(config: &mut ServiceConfig) {
    config
        .route("/media/{picture}", web::get().to(media))
        .route("/type/{family}/{file}", web::get().to(font_file))
        .default_service(web::get().to(page));
}

async fn media(shop: Shop, picture: Path<AssetId>, query: Query<MediaQuery>) -> Answer {
    let MediaQuery { w, treated } = query.into_inner();
    let (bytes, media_type) = shop.drawn(move |shop| shop.shelves.media(&picture, treated.as_deref(), w)).await?;
    Ok(as_it_is(kept_for_ever(&mut HttpResponse::Ok())).content_type(media_type).body(bytes.as_ref().clone()))
}

async fn font_file(shop: Shop, path: Path<(String, String)>) -> Answer {
    let library = shop.studio.typesetter.library();
    let bytes = library
        .file(&format!("{}/{}", path.0, path.1))
        .ok_or_else(|| Problem::not_found("There is no such typeface."))?
        .to_vec();
    Ok(kept_for_ever(&mut HttpResponse::Ok()).content_type("font/ttf").body(bytes))
}

/// Files of the front end; every other address is a page of it.
async fn page(request: HttpRequest) -> Answer {
    let path = request.path().trim_start_matches('/');
    // Files under assets/ carry a hash of their content in their name: one that is not there belongs to another version.
    let hashed = path.starts_with("assets/");
    if let Some((bytes, media_type)) = Shipped.web(path).filter(|_| !path.is_empty()) {
        let mut response = HttpResponse::Ok();
        if hashed {
            kept_for_ever(&mut response);
        }
        return Ok(response.content_type(media_type).body(bytes.into_owned()));
    }
    if hashed {
        return Err(Problem::not_found("There is no such file. A newer version of the pages is here; reload."));
    }
    let (bytes, media_type) = Shipped.web("index.html").ok_or_else(|| {
        Problem::not_found("This program was built without its pages. Build it with \u{201c}make build\u{201d}.")
    })?;
    Ok(HttpResponse::Ok()
        .content_type(media_type)
        .insert_header(CacheControl(vec![CacheDirective::NoStore]))
        .body(bytes.into_owned()))
}
