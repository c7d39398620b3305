//! The `vatman` program.

fn main() -> std::process::ExitCode {
    vatman_server::cli::run()
}
