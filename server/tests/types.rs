//! The types of the front end are those of this program.

#![allow(clippy::unwrap_used, reason = "a failed step is a failed test")]

#[test]
fn types_of_the_front_end_are_current() {
    let path = concat!(env!("CARGO_MANIFEST_DIR"), "/../web/src/generated/types.ts");
    let wanted = vatman_server::typescript::declarations();
    if std::env::var_os("VATMAN_WRITE_TYPES").is_some() {
        std::fs::create_dir_all(std::path::Path::new(path).parent().unwrap()).unwrap();
        std::fs::write(path, &wanted).unwrap();
    }
    let found = std::fs::read_to_string(path).unwrap_or_default();
    assert!(found == wanted, "web/src/generated/types.ts is stale: run `make types`");
}
