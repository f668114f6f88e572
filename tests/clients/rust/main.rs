//! An application over the payloads of the ferries, with the library's own calls.

use std::collections::{HashMap, HashSet};
use std::error::Error;
use std::fs;

use chrono::{DateTime, TimeDelta};
use sailings::{AudienceListOrText, Comment, Field, Notice, NoticeDetail, SailingPage, from_slice};

fn main() -> Result<(), Box<dyn Error>> {
    let demo = std::env::args()
        .nth(1)
        .ok_or("name the folder of the payloads")?;
    sailings(&demo)?;
    notices(&demo)?;
    built()?;
    refused();
    Ok(())
}

fn sailings(demo: &str) -> Result<(), Box<dyn Error>> {
    let text = fs::read(format!("{demo}/sailings/page-1.json"))?;
    let mut page: SailingPage = serde_json::from_slice(&text)?;
    println!("page {} of {}", page.page, page.pages);
    for sailing in &page.results {
        let delay = match sailing.delay_minutes {
            Field::Absent => "on time".to_owned(),
            Field::Null => "some time".to_owned(),
            Field::Value(minutes) => format!("{minutes} minutes late"),
        };
        let gates: Vec<&str> = sailing
            .legs
            .iter()
            .filter_map(|leg| leg.gate.get().map(String::as_str))
            .collect();
        println!("{} {delay}, gates {}", sailing.code, gates.join(" "));
    }
    let first = &mut page.results[0];
    first.delay_minutes.set(3);
    first.remarks = None;
    let changed = serde_json::to_value(&page)?;
    println!(
        "{} {}",
        changed["results"][0]["delay_minutes"], changed["results"][0]["remarks"]
    );
    page.results[0].delay_minutes.clear();
    let cleared = serde_json::to_value(&page)?;
    println!("{}", cleared["results"][0].get("delay_minutes").is_some());
    println!(
        "{}",
        serde_json::from_value::<SailingPage>(cleared)? == page
    );
    let by_vessel: HashMap<_, _> = page
        .results
        .iter()
        .map(|each| (&each.vessel, each))
        .collect();
    println!("{} vessels", by_vessel.len());
    Ok(())
}

fn notices(demo: &str) -> Result<(), Box<dyn Error>> {
    for number in 1..=4 {
        let text = fs::read(format!("{demo}/notices/notice-{number}.json"))?;
        let notice: Notice = serde_json::from_slice(&text)?;
        let about = match &notice.detail {
            NoticeDetail::Closure { berth, until: None } => format!("{berth} is closed"),
            NoticeDetail::Closure {
                berth,
                until: Some(until),
            } => format!("{berth} is closed until {}", until.to_rfc3339()),
            NoticeDetail::Delay { sailing, minutes } => format!("{sailing} is {minutes} late"),
            NoticeDetail::Weather { wind, .. } => format!("wind {} of {}", wind.from, wind.force),
        };
        println!(
            "{}: {about}, {} comments",
            notice.title,
            notice.comments.len()
        );
    }
    Ok(())
}

fn built() -> Result<(), Box<dyn Error>> {
    let issued = DateTime::parse_from_rfc3339("2031-05-01T07:30:00+01:00")?;
    let notice = Notice {
        id: 1,
        issued,
        title: "Berth N2".into(),
        comments: vec![Comment {
            by: "clerk a".into(),
            at: issued + TimeDelta::minutes(30),
            text: "Seen.".into(),
            replies: vec![],
        }],
        audience: AudienceListOrText::Text("crew".into()),
        detail: NoticeDetail::Closure {
            berth: "N2".into(),
            until: None,
        },
    };
    let text = serde_json::to_string(&notice)?;
    let value: serde_json::Value = serde_json::from_str(&text)?;
    println!("{} {} {}", value["kind"], value["until"], value["audience"]);
    let again: Notice = serde_json::from_str(&text)?;
    println!(
        "{} {}",
        again == notice,
        HashSet::from([notice, again]).len()
    );
    Ok(())
}

fn refused() {
    for (what, text) in [
        (
            "seq",
            r#"{"page":1,"pages":1,"next":null,"results":[{"id":1}]}"#,
        ),
        (
            "pages",
            r#"{"page":1,"pages":"1","next":null,"results":[]}"#,
        ),
        ("next", r#"{"page":1,"pages":1,"results":[]}"#),
        ("page", r#"{"page":1,"pages":1,"next":null,"#),
    ] {
        match from_slice::<SailingPage>(text.as_bytes()) {
            Ok(_) => println!("{what}: decoded"),
            Err(error) => println!(
                "{what}: {}",
                if error.to_string().is_empty() {
                    "silent"
                } else {
                    "refused"
                }
            ),
        }
    }
}
