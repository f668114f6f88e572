# frozen_string_literal: true

# An application over the payloads of the ferries, with to_json from anywhere.

require "set"

require_relative "saltmere_sailings"

include SaltmereSailings # rubocop:disable Style/MixinUsage

def late(sailing)
  return "on time" unless sailing.key?(:delay_minutes)

  sailing.delay_minutes ? "#{sailing.delay_minutes} minutes late" : "some time"
end

def about(notice)
  case notice
  in ClosureNotice(berth:, until: nil) then "#{berth} is closed"
  in ClosureNotice(berth:) then "#{berth} is closed until #{notice.until.iso8601}"
  in DelayNotice(sailing:, minutes:) then "#{sailing} is #{minutes} late"
  in WeatherNotice(wind: Wind(from:, force:)) then "wind #{from} of #{force}"
  end
end

def refused(what, json)
  SailingPage.from_json(json)
  puts "#{what}: decoded"
rescue JSON::ParserError => e
  puts "#{what}: #{e.message.empty? ? "silent" : "refused"}"
end

demo, = ARGV

page = SailingPage.from_json(File.read("#{demo}/sailings/page-1.json"))
puts "page #{page.page} of #{page.pages}"
page.results.each do |sailing|
  puts "#{sailing.code} #{late(sailing)}, gates #{sailing.legs.filter_map(&:gate).join(" ")}"
end
again = SailingPage.from_json(page.to_json)
first = page.results.first.with(delay_minutes: 3, remarks: nil)
changed = JSON.parse(JSON.generate({ first: first }))["first"]
puts "#{changed["delay_minutes"]} #{changed["remarks"].to_json}"
first = first.without(:delay_minutes)
puts first.as_json.key?("delay_minutes")
puts again == page
puts "#{Set.new(page.results.map(&:vessel)).size} vessels"

(1..4).each do |number|
  notice = Notice.from_json(File.read("#{demo}/notices/notice-#{number}.json"))
  puts "#{notice.title}: #{about(notice)}, #{notice.comments.size} comments"
end

issued = Time.new(2031, 5, 1, 7, 30, 0, "+01:00")
seen = Comment.new(by: "clerk a", at: issued + 1800, text: "Seen.", replies: [])
notice = ClosureNotice.new(
  id: 1, issued: issued, title: "Berth N2", berth: "N2", until: nil, comments: [seen], audience: Audience::CREW
)
json = JSON.generate(notice)
puts JSON.parse(json).values_at("kind", "until", "audience").map(&:to_json).join(" ")
again = Notice.from_json(json)
puts "#{again == notice} #{Set[again, notice].size}"

refused("seq", '{"page":1,"pages":1,"next":null,"results":[{"id":1}]}')
refused("pages", '{"page":1,"pages":"one","next":null,"results":[]}')
refused("next", '{"page":1,"pages":1,"results":[]}')
refused("page", '{"page":1,"pages":1,"next":null,')
