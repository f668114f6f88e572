import type { Helper } from '../kit/helpers.js';

/** What generated C++ may need before its types. Each stands only where something uses it. */
export const helpers: Readonly<Record<string, Helper>> = {
  DecodeError: {
    imports: ['stdexcept', 'string'],
    text: `/// A payload does not have the declared shape.
class DecodeError : public std::runtime_error {
public:
    DecodeError(std::string expected, std::string found, std::string path = "")
        : std::runtime_error("at " + (path.empty() ? "the top" : path) + ": expected " + expected + ", found " + found),
          path(std::move(path)), expected_(std::move(expected)), found_(std::move(found)) {}

    /// JSON Pointer of the value.
    std::string path;

    /// The same error, seen from the object or list around it.
    DecodeError within(const std::string& step) const {
        std::string token;
        for (char c : step) token += c == '~' ? "~0" : c == '/' ? "~1" : std::string(1, c);
        return DecodeError(expected_, found_, "/" + token + path);
    }

private:
    std::string expected_;
    std::string found_;
};`,
  },
  Number: {
    imports: ['string'],
    text: `/// A number with all its digits, as JSON writes it, for those that neither std::int64_t nor double holds.
struct Number {
    std::string text;
};`,
  },
  Box: {
    imports: ['memory', 'stdexcept', 'utility'],
    text: `/// A value on the heap, copied as a value: for types inside themselves.
template <typename T>
class Box {
public:
    /// Holds nothing until something is assigned: a type inside itself would never be complete otherwise.
    Box() = default;
    Box(T value) : value_(std::make_unique<T>(std::move(value))) {}
    Box(const Box& other) : value_(other.value_ ? std::make_unique<T>(*other.value_) : nullptr) {}
    Box(Box&& other) noexcept = default;
    Box& operator=(Box other) noexcept {
        value_.swap(other.value_);
        return *this;
    }
    ~Box() = default;

    T& operator*() { return value_ ? *value_ : throw std::logic_error("an empty Box"); }
    const T& operator*() const { return value_ ? *value_ : throw std::logic_error("an empty Box"); }
    T* operator->() { return &**this; }
    const T* operator->() const { return &**this; }

private:
    std::unique_ptr<T> value_;
};`,
  },
  codec: {
    imports: ['cstdint', 'limits', 'map', 'optional', 'string', 'tuple', 'utility', 'vector'],
    needs: ['DecodeError'],
    text: `namespace detail {

inline DecodeError mismatch(const std::string& expected, const json& found) {
    if (found.is_object()) return DecodeError(expected, "an object");
    if (found.is_array()) return DecodeError(expected, "a list");
    if (found.is_binary()) return DecodeError(expected, std::string(found.get_binary().begin(), found.get_binary().end()));
    return DecodeError(expected, found.dump(-1, ' ', false, json::error_handler_t::replace));
}

template <typename Work>
auto within(const std::string& step, Work work) {
    try {
        return work();
    } catch (const DecodeError& error) {
        throw error.within(step);
    }
}

/// How a type is read from JSON and written to it; records and unions do it by from_json and to_json.
template <typename T>
struct Codec {
    static T read(const json& value) { return value.get<T>(); }
    static json write(const T& value) { return value; }
};

template <>
struct Codec<bool> {
    static bool read(const json& value) { return value.is_boolean() ? value.get<bool>() : throw mismatch("true or false", value); }
    static json write(bool value) { return value; }
};

template <>
struct Codec<std::string> {
    static std::string read(const json& value) { return value.is_string() ? value.get<std::string>() : throw mismatch("a string", value); }
    static json write(const std::string& value) { return value; }
};

template <>
struct Codec<std::int64_t> {
    static std::int64_t read(const json& value) {
        const bool fits = value.is_number_integer() &&
            !(value.is_number_unsigned() && value.get<std::uint64_t>() > static_cast<std::uint64_t>(std::numeric_limits<std::int64_t>::max()));
        return fits ? value.get<std::int64_t>() : throw mismatch("an integer of 64 bits", value);
    }
    static json write(std::int64_t value) { return value; }
};

template <>
struct Codec<std::int32_t> {
    static std::int32_t read(const json& value) {
        const std::int64_t wide = Codec<std::int64_t>::read(value);
        const bool fits = wide >= std::numeric_limits<std::int32_t>::min() && wide <= std::numeric_limits<std::int32_t>::max();
        return fits ? static_cast<std::int32_t>(wide) : throw mismatch("an integer of 32 bits", value);
    }
    static json write(std::int32_t value) { return value; }
};

template <>
struct Codec<std::nullptr_t> {
    static std::nullptr_t read(const json& value) { return value.is_null() ? nullptr : throw mismatch("null", value); }
    static json write(std::nullptr_t) { return nullptr; }
};

template <typename T>
struct Codec<std::optional<T>> {
    static std::optional<T> read(const json& value) {
        if (value.is_null()) return std::nullopt;
        return Codec<T>::read(value);
    }
    static json write(const std::optional<T>& value) { return value ? Codec<T>::write(*value) : json(nullptr); }
};

template <typename T>
struct Codec<std::vector<T>> {
    static std::vector<T> read(const json& value) {
        if (!value.is_array()) throw mismatch("a list", value);
        std::vector<T> result;
        result.reserve(value.size());
        for (std::size_t i = 0; i < value.size(); i++)
            result.push_back(within(std::to_string(i), [&] { return Codec<T>::read(value[i]); }));
        return result;
    }
    static json write(const std::vector<T>& value) {
        json result = json::array();
        for (const auto& each : value) result.push_back(Codec<T>::write(each));
        return result;
    }
};

template <typename T>
struct Codec<std::map<std::string, T>> {
    static std::map<std::string, T> read(const json& value) {
        if (!value.is_object()) throw mismatch("an object", value);
        std::map<std::string, T> result;
        for (const auto& [key, each] : value.items())
            result.emplace(key, within(key, [&item = each] { return Codec<T>::read(item); }));
        return result;
    }
    static json write(const std::map<std::string, T>& value) {
        json result = json::object();
        for (const auto& [key, each] : value) result[key] = Codec<T>::write(each);
        return result;
    }
};

template <typename... T>
struct Codec<std::tuple<T...>> {
    static std::tuple<T...> read(const json& value) { return read(value, std::index_sequence_for<T...>()); }
    static json write(const std::tuple<T...>& value) {
        return std::apply([](const T&... each) { return json::array({Codec<T>::write(each)...}); }, value);
    }

private:
    template <std::size_t... I>
    static std::tuple<T...> read(const json& value, std::index_sequence<I...>) {
        if (!value.is_array() || value.size() != sizeof...(T)) throw mismatch("a list of " + std::to_string(sizeof...(T)), value);
        return std::tuple<T...>{within(std::to_string(I), [&] { return Codec<T>::read(value[I]); })...};
    }
};`,
  },
  boxCodec: {
    needs: ['codec', 'Box'],
    text: `template <typename T>
struct Codec<Box<T>> {
    static Box<T> read(const json& value) { return Codec<T>::read(value); }
    static json write(const Box<T>& value) { return Codec<T>::write(*value); }
};`,
  },
  doubleCodec: {
    needs: ['codec'],
    text: `template <>
struct Codec<double> {
    static double read(const json& value) { return value.is_number() ? value.get<double>() : throw mismatch("a number", value); }
    static json write(double value) { return value; }
};`,
  },
  numberCodec: {
    imports: ['cstdlib'],
    needs: ['codec', 'Number'],
    text: `/// Numbers that the library would round are held as binary values until they are read.
inline json raw(const std::string& text) { return json::binary(std::vector<std::uint8_t>(text.begin(), text.end())); }

template <>
struct Codec<Number> {
    static Number read(const json& value) {
        if (value.is_binary()) return Number{std::string(value.get_binary().begin(), value.get_binary().end())};
        return value.is_number() ? Number{value.dump()} : throw mismatch("a number", value);
    }
    static json write(const Number& value) { return raw(value.text); }
};

template <>
struct Codec<double> {
    static double read(const json& value) {
        if (value.is_binary()) return std::strtod(Codec<Number>::read(value).text.c_str(), nullptr);
        return value.is_number() ? value.get<double>() : throw mismatch("a number", value);
    }
    static json write(double value) { return value; }
};

/// Builds values as the library does, but keeps the text of numbers that it would round.
class ExactReader : public nlohmann::json_sax<json> {
public:
    json result;

    bool null() override { return add(nullptr); }
    bool boolean(bool value) override { return add(value); }
    bool number_integer(number_integer_t value) override { return add(value); }
    bool number_unsigned(number_unsigned_t value) override { return add(value); }
    bool number_float(number_float_t, const string_t& text) override { return add(raw(text)); }
    bool string(string_t& value) override { return add(value); }
    bool binary(binary_t& value) override { return add(value); }
    bool start_object(std::size_t) override { return open(json::object()); }
    bool key(string_t& value) override {
        key_ = value;
        return true;
    }
    bool end_object() override { return close(); }
    bool start_array(std::size_t) override { return open(json::array()); }
    bool end_array() override { return close(); }
    bool parse_error(std::size_t, const std::string&, const nlohmann::detail::exception& error) override {
        throw DecodeError("JSON", error.what());
    }

private:
    bool add(json value) {
        place(std::move(value));
        return true;
    }
    bool open(json value) {
        open_.push_back(&place(std::move(value)));
        return true;
    }
    bool close() {
        open_.pop_back();
        return true;
    }
    json& place(json value) {
        if (open_.empty()) return result = std::move(value);
        json& around = *open_.back();
        if (around.is_object()) return around[key_] = std::move(value);
        around.push_back(std::move(value));
        return around.back();
    }

    std::vector<json*> open_;
    std::string key_;
};

/// Writes values as the library does, with the text of numbers that were kept.
inline void write_exact(const json& value, std::string& text) {
    if (value.is_binary()) {
        text.append(value.get_binary().begin(), value.get_binary().end());
    } else if (value.is_object()) {
        const char* before = "{";
        if (value.empty()) text += before;
        for (const auto& [key, each] : value.items()) {
            text += before + json(key).dump() + ":";
            write_exact(each, text);
            before = ",";
        }
        text += "}";
    } else if (value.is_array()) {
        const char* before = "[";
        if (value.empty()) text += before;
        for (const auto& each : value) {
            text += before;
            write_exact(each, text);
            before = ",";
        }
        text += "]";
    } else {
        text += value.dump();
    }
}`,
  },
  object: {
    needs: ['codec'],
    text: `inline const json& object(const json& value) { return value.is_object() ? value : throw mismatch("an object", value); }

template <typename T>
void required(const json& object, const std::string& key, T& result) {
    const auto found = object.find(key);
    if (found == object.end()) throw DecodeError("a value", "nothing").within(key);
    result = within(key, [&] { return Codec<T>::read(*found); });
}

template <typename T>
void optional(const json& object, const std::string& key, std::optional<T>& result) {
    const auto found = object.find(key);
    if (found == object.end()) result.reset();
    else result = within(key, [&] { return Codec<T>::read(*found); });
}

template <typename T>
void add(json& object, const std::string& key, const T& value) {
    object[key] = Codec<T>::write(value);
}

template <typename T>
void add_optional(json& object, const std::string& key, const std::optional<T>& value) {
    if (value) object[key] = Codec<T>::write(*value);
}`,
  },
  others: {
    imports: ['map', 'set', 'string'],
    needs: ['object'],
    text: `inline std::map<std::string, json> others(const json& object, const std::set<std::string>& known) {
    std::map<std::string, json> result;
    for (const auto& [key, value] : object.items())
        if (known.count(key) == 0) result[key] = value;
    return result;
}`,
  },
  only: {
    imports: ['set', 'string'],
    needs: ['object'],
    text: `inline void only(const json& object, const std::set<std::string>& known) {
    for (const auto& [key, value] : object.items())
        if (known.count(key) == 0) throw mismatch("no such field", value).within(key);
}`,
  },
  literal: {
    needs: ['object'],
    text: `inline void literal(const json& object, const std::string& key, const std::string& expected) {
    const auto found = object.find(key);
    if (found != object.end() && *found != expected) throw mismatch('"' + expected + '"', *found).within(key);
}`,
  },
};
