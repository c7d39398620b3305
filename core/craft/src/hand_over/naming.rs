//! Names of files people receive.

/// A name for a file from its parts: `saturday-wheel-class_a5-flyer_148x210mm.pdf`.
#[must_use]
pub fn file_name(job: &str, piece: &str, size: &str, extension: &str) -> String {
    let size: String = size.replace('×', "x").chars().filter(|c| c.is_ascii_alphanumeric() || *c == '.').collect();
    let parts = [slug(job), slug(piece), size];
    let parts: Vec<_> = parts.iter().filter(|part| !part.is_empty()).map(String::as_str).collect();
    format!("{}.{extension}", if parts.is_empty() { "design".to_owned() } else { parts.join("_") })
}

/// Lower-case letters and digits joined by hyphens, at most 60; other scripts are written in Latin letters, the rest is left out.
#[must_use]
pub fn slug(text: &str) -> String {
    let mut out = String::new();
    // An apostrophe joins what stands around it.
    for letter in deunicode::deunicode(text).chars().filter(|c| *c != '\'') {
        match letter {
            c if c.is_ascii_alphanumeric() => out.push(c.to_ascii_lowercase()),
            _ if out.ends_with('-') || out.is_empty() => {}
            _ => out.push('-'),
        }
    }
    let cut: String = out.chars().take(60).collect();
    cut.trim_matches('-').to_owned()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_are_plain_and_tell_what_is_inside() {
        assert_eq!(
            file_name("Ines’ Töpfer-Kurs!", "A5 flyer", "148 × 210 mm", "pdf"),
            "ines-topfer-kurs_a5-flyer_148x210mm.pdf"
        );
        assert_eq!(file_name("../../etc", "", "3.5 × 2 in", "png"), "etc_3.5x2in.png");
        assert_eq!(file_name("陶器", "", "", "png"), "tao-qi.png");
        assert_eq!(file_name("?!", "", "", "png"), "design.png");
    }
}
