//! The program itself, built beside the browser tests so that they can start, stop and kill it.

fn main() -> std::process::ExitCode {
    vatman_server::cli::run()
}
