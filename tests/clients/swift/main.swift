// An application over the payloads of the ferries, with the library's own calls.

import Foundation

func read<Payload: Decodable>(_ path: String) throws -> Payload {
    try JSONDecoder().decode(Payload.self, from: Data(contentsOf: URL(fileURLWithPath: path)))
}

func show(_ value: some Encodable) throws -> [String: Any] {
    try JSONSerialization.jsonObject(with: JSONEncoder().encode(value)) as? [String: Any] ?? [:]
}

func sailings(_ demo: String) throws {
    var page: SailingPage = try read("\(demo)/sailings/page-1.json")
    print("page \(page.page) of \(page.pages)")
    for sailing in page.results {
        let delay =
            switch sailing.delayMinutes {
            case .value(let minutes): "\(minutes) minutes late"
            case .null: "some time"
            case .absent: "on time"
            }
        let gates = sailing.legs.compactMap(\.gate.get).joined(separator: " ")
        print("\(sailing.code) \(delay), gates \(gates)")
    }
    page.results[0].delayMinutes.set(3)
    page.results[0].remarks = nil
    let changed = try show(page.results[0])
    print(changed["delay_minutes"]!, changed["remarks"] is NSNull ? "null" : "a remark")
    page.results[0].delayMinutes.clear()
    print(try show(page.results[0]).keys.contains("delay_minutes"))
    print(try JSONDecoder().decode(SailingPage.self, from: JSONEncoder().encode(page)) == page)
    let byVessel = Dictionary(page.results.map { ($0.vessel.id, $0) }, uniquingKeysWith: { $1 })
    print(byVessel.count, "vessels")
}

func notices(_ demo: String) throws {
    for number in 1...4 {
        let notice: Notice = try read("\(demo)/notices/notice-\(number).json")
        let about =
            switch notice {
            case .closure(let closure):
                "\(closure.berth) is closed" + (closure.until.map { " until \($0)" } ?? "")
            case .delay(let delay): "\(delay.sailing) is \(delay.minutes) late"
            case .weather(let weather): "wind \(weather.wind.from) of \(weather.wind.force)"
            }
        print("\(notice.title): \(about), \(notice.comments.count) comments")
    }
}

func built() throws {
    let notice = Notice.closure(
        ClosureNotice(
            id: 1, issued: "2031-05-01T07:30:00+01:00", title: "Berth N2", berth: "N2", until: nil,
            comments: [
                Comment(by: "clerk a", at: "2031-05-01T08:00:00+01:00", text: "Seen.", replies: [])
            ],
            audience: .text("crew")
        ))
    let value = try show(notice)
    let until = value["until"] is NSNull ? "null" : "a time"
    print("\"\(value["kind"]!)\"", until, "\"\(value["audience"]!)\"")
    let again = try JSONDecoder().decode(Notice.self, from: JSONEncoder().encode(notice))
    print(again == notice, Set([notice, again]).count)
}

func refused() {
    for (what, text) in [
        ("seq", #"{"page":1,"pages":1,"next":null,"results":[{"id":1}]}"#),
        ("pages", #"{"page":1,"pages":"1","next":null,"results":[]}"#),
        ("next", #"{"page":1,"pages":1,"results":[]}"#),
        ("page", #"{"page":1,"pages":1,"next":null,"#),
    ] {
        do {
            _ = try JSONDecoder().decode(SailingPage.self, from: Data(text.utf8))
            print("\(what): decoded")
        } catch {
            print("\(what): refused")
        }
    }
}

guard CommandLine.arguments.count > 1 else { fatalError("name the folder of the payloads") }
try sailings(CommandLine.arguments[1])
try notices(CommandLine.arguments[1])
try built()
refused()
