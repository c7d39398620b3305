//! An edit over HTTP: request, command, transaction on disk, scene, changed nodes, answer. `cargo bench -p vatman-server`.

use std::io::{BufRead as _, BufReader, Write as _};
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};

use serde_json::{Value, json};

/// A program that ends with what started it, however that ends: one left behind would hold its output open.
struct Running(Child);

impl Drop for Running {
    fn drop(&mut self) {
        let _ = self.0.kill();
        let _ = self.0.wait();
    }
}

fn main() {
    let folder = tempfile::tempdir().expect("a folder");
    let mut child = Command::new(env!("CARGO_BIN_EXE_vatman"))
        .args(["serve", "--demo", "--bind", "127.0.0.1:0", "--data"])
        .arg(folder.path())
        .stdout(Stdio::piped())
        .spawn()
        .map(Running)
        .expect("the program starts");
    let mut line = String::new();
    BufReader::new(child.0.stdout.take().expect("an output")).read_line(&mut line).expect("an address");
    let address = line.trim().trim_start_matches("Vatman is at ").trim_end_matches('/').to_owned();
    let agent = ureq::Agent::new_with_defaults();
    let post = |path: &str, body: &Value| -> Value {
        agent
            .post(format!("{address}{path}"))
            .header("x-vatman", "1")
            .send_json(body)
            .expect("an answer")
            .body_mut()
            .read_json()
            .expect("JSON")
    };
    let get = |path: &str| -> Value {
        agent.get(format!("{address}{path}")).call().expect("an answer").body_mut().read_json().expect("JSON")
    };

    // A side of sixty items: the first demo job's flyer, filled up.
    let id = get("/api/jobs")[0]["id"].as_str().expect("a job").to_owned();
    let open = get(&format!("/api/jobs/{id}"));
    let side = &open["job"]["pieces"][0]["sides"][0];
    let acts = format!("/api/jobs/{id}/acts");
    let mut revision = 1;
    let mut act = |act: Value, gesture: Option<&str>| {
        let answer = post(&acts, &json!({ "base": revision, "watch": side["id"], "gesture": gesture, "act": act }));
        revision = answer["revision"].as_i64().expect("a revision");
        answer
    };
    for i in side["items"].as_array().map_or(0, Vec::len)..60 {
        act(
            json!({ "act": "add", "side": side["id"], "what": if i % 2 == 0 { json!({ "kind": "words", "part": "detail" }) } else { json!({ "kind": "shape", "outline": { "kind": "ellipse" } }) } }),
            None,
        );
    }
    let kin = open["job"]["kins"]
        .as_object()
        .expect("kins")
        .iter()
        .find(|(_, kin)| kin["part"] == "headline")
        .expect("a headline")
        .0
        .clone();
    let item = side["items"]
        .as_array()
        .expect("items")
        .iter()
        .find(|item| item["kin"] == kin.as_str())
        .expect("the headline stands here")
        .clone();

    let mut report = |name: &str, make: &mut dyn FnMut(usize) -> Value, gesture: Option<&str>| {
        let mut times: Vec<Duration> = (0..220)
            .map(|i| {
                let request = make(i);
                let start = Instant::now();
                act(request, gesture);
                start.elapsed()
            })
            .skip(20)
            .collect();
        times.sort();
        let at = |share: f64| times[((times.len() - 1) as f64 * share) as usize].as_secs_f64() * 1e3;
        let _ = writeln!(
            std::io::stdout(),
            "{name:<28} p50 {:6.2} ms   p95 {:6.2} ms   max {:6.2} ms",
            at(0.5),
            at(0.95),
            at(1.0)
        );
    };
    report("move, 60 items", &mut |_| json!({ "act": "move", "items": [item["id"]], "dx": 9_525, "dy": 0 }), None);
    report(
        "typing, 60 items, 4 pieces",
        &mut |i| json!({ "act": "say", "item": item["id"], "text": format!("Hands in clay by ten. {i}") }),
        Some("typing"),
    );
}
