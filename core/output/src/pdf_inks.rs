//! A PDF whose colours are process inks mixes in them, and says what it is meant for.
//!
//! The writer of PDFs gives every transparency group the colours of screens to blend in, and a file that is to last their profile as its
//! output intent (ISO 32000-1, 11.4.7 and 14.11.5). Both are put right in what it wrote; nothing else is touched.

use lopdf::{Dictionary, Document, Object, ObjectId, StringFormat};

use crate::pdf::PdfError;

/// How the inks are called in the file.
const CONDITION: &str = "Coated paper, offset";

/// A PDF in process inks with everything that blends blending in them. Unchanged where it has no profile of inks.
///
/// # Errors
/// [`PdfError::Writer`] where what was written cannot be read again.
pub(crate) fn mixed_in_inks(pdf: &[u8]) -> Result<Vec<u8>, PdfError> {
    let wrong = |error: lopdf::Error| PdfError::Writer(format!("its inks could not be set: {error}"));
    let mut document = Document::load_mem(pdf).map_err(wrong)?;
    let Some(profile) = profile_of_inks(&document) else { return Ok(pdf.to_vec()) };
    let space = || Object::Array(vec![Object::Name(b"ICCBased".to_vec()), Object::Reference(profile)]);
    for object in document.objects.values_mut() {
        let dictionary = match object {
            Object::Dictionary(dictionary) => dictionary,
            Object::Stream(stream) => &mut stream.dict,
            _ => continue,
        };
        if is_group(dictionary) {
            dictionary.set("CS", space());
        }
        if let Ok(Object::Dictionary(group)) = dictionary.get_mut(b"Group")
            && is_group(group)
        {
            group.set("CS", space());
        }
        if dictionary.get(b"S").is_ok_and(|kind| kind.as_name().is_ok_and(|name| name.starts_with(b"GTS_PDFA"))) {
            meant_for(dictionary, profile);
        }
        // The sheet itself blends in its inks.
        if dictionary.get(b"Type").is_ok_and(|kind| kind.as_name().is_ok_and(|name| name == b"Page"))
            && dictionary.get(b"Group").is_err()
        {
            let mut group = Dictionary::new();
            group.set("Type", Object::Name(b"Group".to_vec()));
            group.set("S", Object::Name(b"Transparency".to_vec()));
            group.set("CS", space());
            dictionary.set("Group", group);
        }
    }
    let mut out = Vec::with_capacity(pdf.len() + 1_024);
    document.save_to(&mut out).map_err(|error| PdfError::Writer(error.to_string()))?;
    Ok(out)
}

/// The profile of four inks in a file.
fn profile_of_inks(document: &Document) -> Option<ObjectId> {
    let four = |object: &Object| {
        let stream = object.as_stream().ok()?;
        let inks = stream.dict.get(b"N").ok()?.as_i64().ok()?;
        (inks == 4 && stream.dict.get(b"Type").is_err()).then_some(())
    };
    document.objects.iter().find(|(_, object)| four(object).is_some()).map(|(id, _)| *id)
}

fn is_group(dictionary: &Dictionary) -> bool {
    dictionary.get(b"S").is_ok_and(|kind| kind.as_name().is_ok_and(|name| name == b"Transparency"))
}

/// Makes an output intent that of the inks.
fn meant_for(intent: &mut Dictionary, profile: ObjectId) {
    let text = |text: &str| Object::String(text.as_bytes().to_vec(), StringFormat::Literal);
    intent.set("OutputConditionIdentifier", text("Custom"));
    intent.set("OutputCondition", text(CONDITION));
    intent.set("Info", text(CONDITION));
    intent.set("DestOutputProfile", Object::Reference(profile));
    intent.remove(b"RegistryName");
}
