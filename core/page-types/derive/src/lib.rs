//! The derive of the types of the pages where nobody writes them.

use proc_macro::TokenStream;

/// Writes nothing, and knows the attributes of the one that does.
#[proc_macro_derive(TS, attributes(ts))]
pub fn unwritten(_: TokenStream) -> TokenStream {
    TokenStream::new()
}
