//! Times the library on a file of a list: as anything, and as the generated types, in turn.

use std::time::Instant;

use sailings::{Notice, SailingPageItem};
use serde::Serialize;
use serde::de::DeserializeOwned;

fn timed<T: DeserializeOwned + Serialize>(text: &[u8]) -> (f64, f64) {
    let start = Instant::now();
    let value: T = serde_json::from_slice(text).unwrap();
    let decode = start.elapsed().as_secs_f64();
    let start = Instant::now();
    assert!(!serde_json::to_string(&value).unwrap().is_empty());
    (decode, start.elapsed().as_secs_f64())
}

fn main() {
    let folder = std::env::args().nth(1).unwrap();
    for name in ["notices", "sailings"] {
        let text = std::fs::read(format!("{folder}/{name}.json")).unwrap();
        for _ in 0..9 {
            let plain = timed::<serde_json::Value>(&text);
            let typed = if name == "notices" {
                timed::<Vec<Notice>>(&text)
            } else {
                timed::<Vec<SailingPageItem>>(&text)
            };
            println!("{name} {} {} {} {}", plain.0, plain.1, typed.0, typed.1);
        }
    }
}
