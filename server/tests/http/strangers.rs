//! Files by strangers: what they may ask for, that they harm nobody else, and that nothing of them leaves but what is seen.

use base64::Engine as _;
use base64::engine::general_purpose::STANDARD as BASE64;

use super::*;

fn bring_svg(svg: impl Into<Vec<u8>>) -> TestRequest {
    TestRequest::post()
        .uri("/api/drawings?name=brought.svg")
        .insert_header((header::HOST, "localhost"))
        .insert_header((OWN_HEADER, "1"))
        .set_payload(svg.into())
}

fn svg(inside: &str) -> String {
    format!(
        "<svg xmlns='http://www.w3.org/2000/svg' xmlns:xlink='http://www.w3.org/1999/xlink' width='200' height='200'>{inside}</svg>"
    )
}

fn asked(request: TestRequest, path: &str) -> TestRequest {
    request.uri(path).insert_header((header::HOST, "127.0.0.1:7420")).insert_header((OWN_HEADER, "1"))
}

/// A PNG of one colour, so wide and high, that takes next to no bytes.
fn flat_png(width: u32, height: u32) -> Vec<u8> {
    let mut out = std::io::Cursor::new(Vec::new());
    image::GrayImage::new(width, height).write_to(&mut out, image::ImageFormat::Png).unwrap();
    out.into_inner()
}

#[actix_web::test]
async fn an_svg_that_asks_for_too_much_is_refused_with_the_limit_it_meets() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let quadratic = format!("<!DOCTYPE svg [<!ENTITY a '{}'>]>{}", "A".repeat(50_000), svg(&"&a;".repeat(20_000)));
    let mut levels = String::from("<!DOCTYPE svg [<!ENTITY e0 '<rect width=\"9\" height=\"9\"/>'>");
    for level in 1..3 {
        levels += &format!("<!ENTITY e{level} '{}'>", format!("&e{};", level - 1).repeat(900));
    }
    levels += &format!("]>{}", svg("&e2;&e2;&e2;"));
    let inside = |picture: &[u8]| {
        let link = format!("data:image/png;base64,{}", BASE64.encode(picture));
        svg(&format!("<image width='9' height='9' xlink:href='{link}'/>"))
    };
    let clips: String = (0..20_000)
        .map(|at| format!("<clipPath id='c{at}' clip-path='url(#c{})'><rect width='9' height='9'/></clipPath>", at + 1))
        .collect();
    let deep = format!("{}<rect width='9' height='9'/>{}", "<g>".repeat(3_000), "</g>".repeat(3_000));
    for (name, file, told) in [
        ("quadratic entities", quadratic, "unfold"),
        ("entities of two levels", levels, "unfold"),
        ("plain text", svg(&"<text y='9'>clay</text>".repeat(300_000)), "elements"),
        ("letters", svg(&"<text y='9'>clay and glaze and fire and water</text>".repeat(9_000)), "letters"),
        ("a huge picture inside", inside(&flat_png(10_000, 10_000)), "million pixels"),
        ("nested clips", svg(&format!("{clips}<rect width='9' height='9' clip-path='url(#c0)'/>")), "deep"),
        ("nested groups", svg(&deep), "deep"),
    ] {
        let problem = problem!(app, bring_svg(file), StatusCode::UNPROCESSABLE_ENTITY);
        let says = problem["detail"].as_str().unwrap();
        assert!(says.contains(told), "{name}: {says}");
    }
    // The program goes on as before.
    let read = ok!(app, bring_svg(svg("<rect width='80' height='40' fill='#8c5a3c'/>")));
    assert_eq!(read["drawing"]["parts"].as_array().unwrap().len(), 1);
}

#[actix_web::test]
async fn every_filter_at_its_largest_ends_soon_one_way_or_the_other() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let kernel = "1 ".repeat(31 * 31);
    for filter in [
        "<feMorphology operator='dilate' radius='8'/>".to_owned(),
        "<feMorphology operator='dilate' radius='180'/>".to_owned(),
        "<feTurbulence baseFrequency='0.9' numOctaves='9000000'/>".to_owned(),
        "<feTurbulence baseFrequency='0.05' numOctaves='4'/>".to_owned(),
        format!("<feConvolveMatrix order='31' kernelMatrix='{kernel}'/>"),
        "<feGaussianBlur stdDeviation='900'/><feMorphology radius='3'/>".to_owned(),
        "<feDiffuseLighting surfaceScale='90'><fePointLight x='9' y='9' z='9'/></feDiffuseLighting>".to_owned(),
        "<feTile/><feOffset dx='9e9'/><feFlood/>".to_owned(),
    ] {
        for region in ["", " x='-9' y='-9' width='270' height='270'"] {
            let file = svg(&format!(
                "<filter id='f'{region}>{filter}</filter><rect width='190' height='190' fill='#9db8a4' filter='url(#f)'/>"
            ));
            let response = call_service(&app, bring_svg(file).to_request()).await;
            let status = response.status();
            let body = json_of(response).await;
            let told = body["detail"].as_str().is_some_and(|told| told.to_lowercase().contains("nothing"));
            let refused = status == StatusCode::UNPROCESSABLE_ENTITY && told || status.is_success();
            assert!(refused, "{filter}{region}: {status} {body}");
            // What was drawn can be written again: no side of it is out of bounds.
            for picture in ok!(app, get("/api/pictures")).as_array().unwrap() {
                assert!(picture["width"].as_i64().unwrap() <= 20_000 && picture["height"].as_i64().unwrap() <= 20_000);
            }
        }
    }
}

/// Workers of this process that run; those of other tests are among them.
fn workers() -> Vec<u32> {
    let own = std::process::id().to_string();
    let of_ours = |entry: std::fs::DirEntry| {
        let stat = std::fs::read_to_string(entry.path().join("stat")).ok()?;
        let line = std::fs::read_to_string(entry.path().join("cmdline")).ok()?;
        // The fields after the name in brackets: state, parent.
        let parent = stat.rsplit(')').next()?.split_whitespace().nth(1)?.to_owned();
        let pid = entry.file_name().to_str()?.parse().ok()?;
        (parent == own && line.contains("worker")).then_some(pid)
    };
    std::fs::read_dir("/proc").unwrap().flatten().filter_map(of_ours).collect()
}

#[actix_web::test]
async fn what_nobody_waits_for_any_more_is_ended() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    // Every rule is held against every element.
    let rules: String = (0..9_000).map(|at| format!("g > rect.c{at} + rect.d{at} {{ fill: #23201d }} ")).collect();
    let slow =
        svg(&format!("<style>{rules}</style><g>{}</g>", "<rect class='a b' width='9' height='9'/>".repeat(40_000)));
    let asked = call_service(&app, bring_svg(slow).to_request());
    let mut running = Vec::new();
    let wait = async {
        tokio::time::sleep(std::time::Duration::from_millis(1_500)).await;
        running = workers();
    };
    let gone =
        tokio::time::timeout(std::time::Duration::from_millis(1_600), futures_util::future::join(asked, wait)).await;
    assert!(gone.is_err(), "it would have taken longer");
    assert!(!running.is_empty());
    // It is looked every few milliseconds whether somebody still waits. Left alone it would go on for ten seconds.
    for _ in 0..200 {
        let now = workers();
        running.retain(|worker| now.contains(worker));
        if running.is_empty() {
            return;
        }
        tokio::time::sleep(std::time::Duration::from_millis(20)).await;
    }
    panic!("workers are left behind: {running:?}");
}

#[actix_web::test]
async fn fonts_that_are_no_fonts_end_as_a_sentence() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let bring = |file: Vec<u8>| {
        TestRequest::post()
            .uri("/api/families")
            .insert_header((header::HOST, "localhost"))
            .insert_header((OWN_HEADER, "1"))
            .set_payload(file)
    };
    problem!(app, bring(b"OTTO and nothing else".to_vec()), StatusCode::UNPROCESSABLE_ENTITY);
    // A font each of whose bytes in turn may be wrong: refused or taken, never the end of the program.
    let path = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../assets/fonts/rye/Rye_400Regular.ttf");
    let file = std::fs::read(path).unwrap();
    for at in (12..file.len()).step_by(file.len() / 12) {
        let mut wrong = file.clone();
        wrong[at..(at + 40).min(file.len())].fill(0xff);
        let response = call_service(&app, bring(wrong).to_request()).await;
        assert!(
            response.status().is_success() || response.status() == StatusCode::UNPROCESSABLE_ENTITY,
            "{at}: {}",
            response.status()
        );
    }
}

const SECRETS: [&[u8]; 4] = [b"taken at 51.5 N", b"serial 550142", b"a film of the workshop", b"remark by Ines"];

fn segment(marker: u8, content: &[u8]) -> Vec<u8> {
    [&[0xff, marker], (content.len() as u16 + 2).to_be_bytes().as_slice(), content].concat()
}

/// A PNG chunk without its checksum being right for other readers to care: counted properly all the same.
fn chunk(kind: &[u8; 4], content: &[u8]) -> Vec<u8> {
    let crc = {
        let mut crc = 0xffff_ffff_u32;
        for byte in kind.iter().chain(content) {
            crc ^= u32::from(*byte);
            for _ in 0..8 {
                crc = if crc & 1 == 1 { crc >> 1 ^ 0xedb8_8320 } else { crc >> 1 };
            }
        }
        !crc
    };
    [(content.len() as u32).to_be_bytes().as_slice(), kind, content, &crc.to_be_bytes()].concat()
}

/// Pictures that tell more than is seen: a JPEG with application segments, a second picture and a film behind it, and a PNG with text.
fn talkative() -> Vec<(&'static str, Vec<u8>)> {
    let plain = picture_as(image::ImageFormat::Jpeg);
    let mut told = plain.clone();
    let long = [b"Exif\0\0", SECRETS[0], &[b' '; 20_000], SECRETS[1]].concat();
    told.splice(2..2, [segment(0xe1, &long), segment(0xfe, SECRETS[3]), segment(0xe2, &long)].concat());
    let second = told.clone();
    told.extend(second);
    told.extend([b"\0\0\0\x18ftypmp42".as_slice(), SECRETS[2], b"\xff\xda\0\x02 more \xff\xd9"].concat());
    let png = picture_as(image::ImageFormat::Png);
    let at = png.windows(4).position(|four| four == b"IDAT").unwrap() - 4;
    let mut written = png[..at].to_vec();
    written.extend(chunk(b"tEXt", &[b"Comment\0", SECRETS[3]].concat()));
    written.extend(chunk(b"eXIf", &[b"MM\0*", SECRETS[0]].concat()));
    written.extend(&png[at..]);
    written.extend(SECRETS[2]);
    vec![("jpeg", told), ("png", written)]
}

/// The secrets that stand in a file, also where it is packed.
fn told_in(name: &str, bytes: &[u8]) -> Vec<String> {
    let mut all = vec![bytes.to_vec()];
    if bytes.starts_with(b"PK") {
        let mut archive = zip::ZipArchive::new(std::io::Cursor::new(bytes)).unwrap();
        for at in 0..archive.len() {
            let mut inside = Vec::new();
            std::io::Read::read_to_end(&mut archive.by_index(at).unwrap(), &mut inside).unwrap();
            all.push(inside);
        }
    }
    let mut unpacked = Vec::new();
    for file in &all {
        if file.starts_with(b"%PDF") {
            let document = lopdf::Document::load_mem(file).unwrap();
            let streams = document.objects.values().filter_map(|object| object.as_stream().ok());
            unpacked
                .extend(streams.map(|stream| stream.decompressed_content().unwrap_or_else(|_| stream.content.clone())));
        }
        for link in String::from_utf8_lossy(file).split(";base64,").skip(1) {
            let data: String = link.chars().take_while(|c| c.is_ascii_alphanumeric() || "+/=".contains(*c)).collect();
            unpacked.extend(BASE64.decode(data).ok());
        }
    }
    all.extend(unpacked);
    let stands = |secret: &&&[u8]| all.iter().any(|file| file.windows(secret.len()).any(|part| part == **secret));
    SECRETS.iter().filter(stands).map(|secret| format!("{name}: {}", String::from_utf8_lossy(secret))).collect()
}

#[actix_web::test]
async fn nothing_of_a_picture_leaves_but_what_is_seen_by_any_way_out() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let words = json!({ "headline": "Ines Vardal" });
    let wish = json!({ "design": "plain-words", "places": ["card"], "words": words, "backs": true });
    let id = ok!(app, post("/api/jobs", &wish))["id"].as_str().unwrap().to_owned();
    let open = ok!(app, get(&format!("/api/jobs/{id}")));
    let piece = open["job"]["pieces"][0]["id"].as_str().unwrap().to_owned();
    let sides = open["job"]["pieces"][0]["sides"].as_array().unwrap().clone();
    for (at, (kind, file)) in talkative().into_iter().enumerate() {
        assert!(!told_in(kind, &file).is_empty(), "the {kind} tells something");
        let picture = ok!(app, upload(file))["id"].clone();
        let add = json!({ "act": "add", "side": sides[at % sides.len()]["id"], "what": { "kind": "picture", "picture": picture } });
        ok!(app, post(&format!("/api/jobs/{id}/acts"), &json!({ "base": at + 1, "act": add })));
    }
    let mut told = Vec::new();
    let mut seen = 0;
    let mut look = |name: &str, bytes: &[u8]| {
        seen += 1;
        assert!(bytes.len() > 500, "{name} is a file");
        told.extend(told_in(name, bytes));
    };
    for kind in ["png", "jpeg", "webp", "gif", "tiff", "pdf", "svg"] {
        for (process, lasting) in [(false, false), (true, false), (false, true)] {
            if kind != "pdf" && (process || lasting) {
                continue;
            }
            let wish = json!({ "pieces": [piece], "kind": kind, "process": process, "lasting": lasting });
            let work = made!(app, id, wish);
            let file = read_body(call_service(&app, get(&format!("/api/work/{work}/file")).to_request()).await).await;
            look(&format!("{kind} {process} {lasting}"), &file);
        }
    }
    let setup = ok!(app, get(&format!("/api/jobs/{id}/pieces/{piece}/sheets")))["setup"].clone();
    for process in [false, true] {
        let mut setup = setup.clone();
        setup["process"] = json!(process);
        let wish = json!({ "pieces": [{ "piece": piece }], "setup": setup });
        look("sheets", &waited!(app, post(&format!("/api/jobs/{id}/sheets/file"), &wish)));
    }
    // As a list, each row its own file, and as an order.
    let list = format!("/api/jobs/{id}/pieces/{piece}/list");
    let rows = asked(TestRequest::post(), &list).set_payload("Who\nInes\nTobin\n");
    ok!(app, rows);
    for wish in [json!({ "together": false, "kind": "png" }), json!({ "together": true, "kind": "pdf" })] {
        look("list", &waited!(app, post(&format!("{list}/files"), &wish)));
    }
    let paper = ok!(app, get("/api/shop"))["papers"][0]["id"].clone();
    let wish = json!({ "paper": paper, "count": 100 });
    let order = ok!(app, post(&format!("/api/jobs/{id}/pieces/{piece}/orders"), &wish));
    look("order", &bytes!(app, get(&format!("/api/orders/{}/file", order["id"].as_str().unwrap()))));
    let wish = json!({ "pieces": [piece] });
    let work = made!(app, id, wish);
    look("for its place", &bytes!(app, get(&format!("/api/work/{work}/file"))));
    assert_eq!(seen, 15);
    assert_eq!(told, Vec::<String>::new());
}

#[actix_web::test]
async fn what_would_take_too_long_is_refused_when_it_is_asked_for() {
    let folder = tempfile::tempdir().unwrap();
    let shop = workshop(&folder);
    let app = app!(shop);
    let (id, open) = new_job!(app);
    let path = format!("/api/jobs/{id}/acts");
    let side = first_side(&open)["id"].clone();
    let item = item_with(&open, &kin_of(&open, "headline"));
    let act = |act: Value| post(&path, &json!({ "base": 1, "watch": side, "act": act }));
    // One sign that is a whole sentence, thousands of times.
    let says = "\u{fdfb}\u{fdfa}".repeat(3_300);
    let told =
        problem!(app, act(json!({ "act": "say", "item": item, "text": says })), StatusCode::UNPROCESSABLE_ENTITY);
    assert!(told["detail"].as_str().unwrap().contains("letters"), "{told}");
    // Stars laid over stars cross thousands of times.
    let star = |at: u64| json!({ "outline": { "kind": "star", "points": 60, "depth": 400_000_000u64 }, "at": [at * 3_000_000, at * 2_000_000, 1_000_000_000u64, 1_000_000_000u64], "turn": 0, "flip": false });
    let parts: Vec<Value> = (0..90).map(star).collect();
    let outline = json!({ "kind": "combined", "how": "exclude", "parts": parts });
    let add = json!({ "act": "add", "side": side, "what": { "kind": "shape", "outline": outline } });
    let told = problem!(app, act(add), StatusCode::UNPROCESSABLE_ENTITY);
    assert!(told["detail"].as_str().unwrap().contains("edges"), "{told}");
    let places: Vec<Value> = (0..40).map(|at| json!({ "place": format!("{} x 400 px", 300 + at) })).collect();
    let told = problem!(app, act(json!({ "act": "addPieces", "places": places })), StatusCode::UNPROCESSABLE_ENTITY);
    assert!(told["detail"].as_str().unwrap().contains("places at a time"), "{told}");
    // Long words in plain letters are nothing of that kind.
    ok!(app, act(json!({ "act": "say", "item": item, "text": "Hands in clay. ".repeat(1_000) })));
}
