//! Requests from elsewhere are refused: only pages served from this machine may ask.

use actix_web::ResponseError as _;
use actix_web::body::{EitherBody, MessageBody};
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::http::header;
use actix_web::middleware::Next;

use crate::problem::Problem;

/// Whether a host, with or without a port, is this machine's loopback name.
fn is_local(host: &str) -> bool {
    let name = match host.strip_prefix('[') {
        Some(rest) => rest.split(']').next().unwrap_or_default(),
        None => host.split(':').next().unwrap_or_default(),
    };
    ["localhost", "127.0.0.1", "::1"].contains(&name)
}

/// Refuses a foreign Host (a name rebound to this machine) and a foreign Origin (another site's page).
pub(crate) async fn local_only(request: ServiceRequest, next: Next<impl MessageBody>) -> Result<ServiceResponse<EitherBody<impl MessageBody>>, actix_web::Error> {
    let text = |name| request.headers().get(name).map(|value| value.to_str().unwrap_or_default());
    let host_ok = text(header::HOST).is_some_and(is_local);
    let origin_ok = text(header::ORIGIN).is_none_or(|origin| origin.split_once("://").is_some_and(|(_, host)| is_local(host) && Some(host) == text(header::HOST)));
    if !host_ok || !origin_ok {
        return Ok(request.into_response(Problem::foreign().error_response()).map_into_right_body());
    }
    Ok(next.call(request).await?.map_into_left_body())
}

#[cfg(test)]
mod tests {
    use super::is_local;

    #[test]
    fn only_loopback_names_are_local() {
        for host in ["localhost", "localhost:8080", "127.0.0.1:1", "[::1]:8080"] {
            assert!(is_local(host), "{host}");
        }
        for host in ["", "example.test", "localhost.example.test", "127.0.0.1.example.test:80", "10.0.0.1", "[::2]"] {
            assert!(!is_local(host), "{host}");
        }
    }
}
