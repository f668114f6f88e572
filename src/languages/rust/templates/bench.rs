// Keys of other scripts may look like Latin ones.
#![allow(mixed_script_confusables, confusable_idents, uncommon_codepoints)]

#[path = "classes/src/lib.rs"]
mod classes;

use std::io::{self, BufRead, Write};

type Answer = Result<String, Box<dyn std::error::Error>>;

fn library(line: &[u8]) -> Answer {
    let value: classes::__Root__ = serde_json::from_slice(line)?;
    Ok(serde_json::to_string(&value)?)
}

fn path(line: &[u8]) -> Answer {
    let value: classes::__Root__ = classes::from_slice(line)?;
    Ok(serde_json::to_string(&value)?)
}

#[derive(serde::Serialize, serde::Deserialize)]
struct Host {
    before: i32,
    payload: classes::__Root__,
    after: i32,
}

const BEFORE: &str = "{\"before\":1,\"payload\":";
const AFTER: &str = ",\"after\":2}";

fn in_field(line: &[u8]) -> Answer {
    let text = [BEFORE.as_bytes(), line, AFTER.as_bytes()].concat();
    let host: Host = serde_json::from_slice(&text)?;
    if (host.before, host.after) != (1, 2) {
        return Err("the fields beside the payload are lost".into());
    }
    let text = serde_json::to_string(&host)?;
    Ok(text[BEFORE.len()..text.len() - AFTER.len()].to_string())
}

fn elements(line: &[u8]) -> Answer {
    let list: Vec<classes::__Root__> = serde_json::from_slice(&[b"[", line, b"]"].concat())?;
    let text = serde_json::to_string(&list)?;
    Ok(text[1..text.len() - 1].to_string())
}

fn through_value(line: &[u8]) -> Answer {
    let value: classes::__Root__ = serde_json::from_value(serde_json::from_slice(line)?)?;
    Ok(serde_json::to_value(&value)?.to_string())
}
//: if record

fn built(line: &[u8]) -> Answer {
    let value: classes::__Root__ = serde_json::from_slice(line)?;
    let again = classes::__Root__ {
        //: each fields
        __Field__: value.__Field__.clone(),
        //: end
        //: if extra
        __extra__: value.__extra__.clone(),
        //: end
    };
    if again != value {
        return Err("what was built is not equal to what was decoded".into());
    }
    Ok(serde_json::to_string(&again)?)
}
//: end

const WAYS: &[fn(&[u8]) -> Answer] = &[
    path,
    library,
    in_field,
    elements,
    through_value,
    //: if record
    built,
    //: end
];
//: if setters

fn changed(field: &[u8], line: &[u8], from: &[u8]) -> Answer {
    let mut value: classes::__Root__ = serde_json::from_slice(line)?;
    let other: classes::__Root__ = serde_json::from_slice(from)?;
    match field {
        //: each setters
        b"__i__" => value.__Field__ = other.__Field__,
        //: end
        _ => return Err("there is no such field".into()),
    }
    Ok(serde_json::to_string(&value)?)
}
//: end

fn said(answer: Answer) -> String {
    answer.unwrap_or_else(|error| format!("!{error}").replace(['\n', '\x1e'], " "))
}

fn answer(line: &[u8]) -> String {
    //: if setters
    let parts: Vec<&[u8]> = line.split(|each| *each == 0x1e).collect();
    if let [_, field, one, other] = parts[..] {
        return said(changed(field, one, other));
    }
    //: end
    let mut answers: Vec<String> = WAYS.iter().map(|way| said(way(line))).collect();
    for i in 1..answers.len() {
        if answers[i] == answers[0] {
            answers[i] = String::from("=");
        }
    }
    answers.join("\x1e")
}

fn main() -> io::Result<()> {
    let mut output = io::stdout().lock();
    for line in io::stdin().lock().split(b'\n') {
        writeln!(output, "{}", answer(&line?))?;
        output.flush()?;
    }
    Ok(())
}
