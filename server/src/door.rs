//! The door: requests from elsewhere are refused, and every answer says how far it may be trusted.

use std::net::{IpAddr, Ipv4Addr, Ipv6Addr};

use actix_web::ResponseError as _;
use actix_web::body::{EitherBody, MessageBody};
use actix_web::dev::{ServiceRequest, ServiceResponse};
use actix_web::http::{Method, header};
use actix_web::middleware::{DefaultHeaders, Next};

use crate::problem::Problem;

/// A header only our own pages and programs on this machine send: other sites' pages may not without asking first, and are refused.
pub const OWN_HEADER: &str = "x-vatman";

/// What a page may do: load from here alone, run scripts from files alone, be framed by nobody.
const POLICY: &str = "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; \
    font-src 'self' data:; connect-src 'self'; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

/// The headers every answer carries.
pub(crate) fn headers() -> DefaultHeaders {
    DefaultHeaders::new()
        .add((header::CONTENT_SECURITY_POLICY, POLICY))
        .add((header::X_CONTENT_TYPE_OPTIONS, "nosniff"))
        .add((header::X_FRAME_OPTIONS, "DENY"))
        .add((header::REFERRER_POLICY, "no-referrer"))
        .add(("cross-origin-resource-policy", "same-origin"))
        .add(("cross-origin-opener-policy", "same-origin"))
}

/// Whether a host, with or without a port, is this machine's loopback name or any of its loopback addresses.
fn is_local(host: &str) -> bool {
    let name = match host.rsplit_once(':') {
        Some((name, port)) if !port.is_empty() && port.bytes().all(|b| b.is_ascii_digit()) => name,
        _ => host,
    };
    if name.eq_ignore_ascii_case("localhost") {
        return true;
    }
    if let Some(inside) = name.strip_prefix('[').and_then(|rest| rest.strip_suffix(']')) {
        return inside.parse::<Ipv6Addr>().is_ok_and(|address| address.is_loopback());
    }
    name.parse::<Ipv4Addr>().is_ok_and(|address| IpAddr::V4(address).is_loopback())
}

/// Whether a request may be answered.
fn is_ours(request: &ServiceRequest) -> bool {
    let text = |name: &str| request.headers().get(name).map(|value| value.to_str().unwrap_or_default());
    let host = text("host");
    if !host.is_some_and(is_local) {
        return false;
    }
    let origin = text("origin")
        .map(|origin| origin.split_once("://").is_some_and(|(_, named)| is_local(named) && Some(named) == host));
    let site = text("sec-fetch-site");
    let elsewhere = site.is_some_and(|site| site != "same-origin" && site != "none");
    let reads = matches!(*request.method(), Method::GET | Method::HEAD | Method::OPTIONS);
    if reads {
        // A link from elsewhere may open a page; nothing else is for others.
        // The path is looked at as the routes see it, with what was written in hexadecimal decoded.
        let path = request.match_info().as_str();
        let data = ["/api", "/media", "/type"].iter().any(|area| path.starts_with(area));
        return origin != Some(false) && !(elsewhere && data);
    }
    // What changes something says by itself that it comes from here.
    origin != Some(false) && !elsewhere && (origin == Some(true) || text(OWN_HEADER).is_some())
}

/// Answers HEAD as GET: the same head, of which the server sends no body.
pub(crate) async fn head_as_get(
    mut request: ServiceRequest,
    next: Next<impl MessageBody>,
) -> Result<ServiceResponse<impl MessageBody>, actix_web::Error> {
    if request.method() == Method::HEAD {
        request.head_mut().method = Method::GET;
    }
    next.call(request).await
}

/// Refuses a foreign Host (a name rebound to this machine), a foreign Origin (another site's page), and changes that do not say
/// where they come from.
pub(crate) async fn local_only(
    request: ServiceRequest,
    next: Next<impl MessageBody>,
) -> Result<ServiceResponse<EitherBody<impl MessageBody>>, actix_web::Error> {
    if !is_ours(&request) {
        return Ok(request.into_response(Problem::foreign().error_response()).map_into_right_body());
    }
    Ok(next.call(request).await?.map_into_left_body())
}

#[cfg(test)]
mod tests {
    use super::*;
    use actix_web::test::TestRequest;

    #[test]
    fn only_loopback_names_are_local() {
        for host in
            ["localhost", "LOCALHOST:8080", "127.0.0.1:1", "127.0.0.2:7420", "127.255.0.9", "[::1]:8080", "[::1]"]
        {
            assert!(is_local(host), "{host}");
        }
        for host in [
            "",
            ":80",
            "example.test",
            "localhost.example.test",
            "127.0.0.1.example.test:80",
            "10.0.0.1",
            "[::2]",
            "[::1].example.test",
            "[::1].example.test:80",
            "[::1",
            "::1",
            "0.0.0.0",
        ] {
            assert!(!is_local(host), "{host}");
        }
    }

    #[test]
    fn changes_say_where_they_come_from() {
        let ours = |method: Method, path: &str, headers: &[(&str, &str)]| {
            let request = TestRequest::with_uri(path).method(method).insert_header(("host", "127.0.0.1:7420"));
            let request = headers.iter().fold(request, |request, header| request.insert_header(*header));
            is_ours(&request.to_srv_request())
        };
        let (get, post) = (Method::GET, Method::POST);
        assert!(ours(get.clone(), "/api/jobs", &[]) && ours(get.clone(), "/", &[("sec-fetch-site", "cross-site")]));
        assert!(!ours(get.clone(), "/api/jobs", &[("sec-fetch-site", "cross-site")]));
        for hidden in ["/%61pi/jobs", "/ap%69/jobs", "/%6dedia/x", "/%2561pi"] {
            let decoded = ours(get.clone(), hidden, &[("sec-fetch-site", "cross-site")]);
            assert_eq!(decoded, hidden == "/%2561pi", "{hidden}: as the routes read it");
        }
        assert!(!ours(get, "/", &[("origin", "http://example.test")]));
        assert!(!ours(post.clone(), "/api/jobs", &[]), "neither origin nor header");
        assert!(ours(post.clone(), "/api/jobs", &[(OWN_HEADER, "1")]));
        assert!(ours(post.clone(), "/api/jobs", &[("origin", "http://127.0.0.1:7420")]));
        assert!(!ours(post.clone(), "/api/jobs", &[("origin", "http://127.0.0.1:9999")]), "another program here");
        assert!(!ours(post.clone(), "/api/jobs", &[("origin", "null"), (OWN_HEADER, "1")]));
        for site in ["cross-site", "same-site"] {
            assert!(!ours(post.clone(), "/api/jobs", &[(OWN_HEADER, "1"), ("sec-fetch-site", site)]), "{site}");
        }
    }
}
