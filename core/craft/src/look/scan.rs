//! Codes as devices scan them.

use vatman_photo::Straight;

/// What all codes of a picture hold.
pub(crate) fn scanned(picture: &Straight) -> Vec<Vec<u8>> {
    let wide = picture.width() as usize;
    let light = |x: usize, y: usize| {
        let [r, g, b, a] = picture.data().as_chunks::<4>().0[y * wide + x].map(u32::from);
        // On white where it is clear.
        let over = |value: u32| (value * a + 255 * (255 - a)) / 255;
        ((over(r) * 54 + over(g) * 183 + over(b) * 19) / 256) as u8
    };
    let mut ready = rqrr::PreparedImage::prepare_from_greyscale(wide, picture.height() as usize, light);
    let grids = ready.detect_grids();
    let read = |grid: &rqrr::Grid<_>| {
        let mut content = Vec::new();
        grid.decode_to(&mut content).ok().map(|_| content)
    };
    grids.iter().filter_map(read).collect()
}
