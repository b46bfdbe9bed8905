// An exact file as bytes: numbers as they are in memory, lists with their counts before them.

#include <cstring>

#include "core/readers/exact_file.hpp"

namespace plume {
namespace {

class Writer {
public:
    void put(double number) { raw(&number, sizeof number); }
    void put(std::uint64_t number) { raw(&number, sizeof number); }
    void put(bool flag) { put(std::uint64_t{flag ? 1U : 0U}); }
    void put(const std::string& text) {
        put(std::uint64_t{text.size()});
        raw(text.data(), text.size());
    }
    void put(const Column& column) { numbers(column.data(), column.size()); }
    void put(const std::vector<double>& values) { numbers(values.data(), values.size()); }
    void put(const std::vector<std::uint32_t>& values) {
        put(std::uint64_t{values.size()});
        raw(values.data(), values.size() * sizeof(std::uint32_t));
    }
    void put(const SplineBasis& basis) {
        put(static_cast<std::uint64_t>(basis.degree));
        put(basis.closed);
        put(basis.knots);
    }
    void put(const SplineCurve& curve) {
        put(curve.basis());
        for (const Column* column : {&curve.x(), &curve.y(), &curve.z(), &curve.weights()})
            put(*column);
    }
    void put(const SplinePatch& patch) {
        put(patch.u());
        put(patch.v());
        for (const Column* column : {&patch.x(), &patch.y(), &patch.z(), &patch.weights()})
            put(*column);
        put_all(patch.parts().trims);
    }
    void put(const ExactSolid& solid) {
        put_all(solid.patches);
        put(solid.edges_within);
        put(solid.mesh.has_value());
        if (!solid.mesh) return;
        const Mesh::Parts& parts = solid.mesh->parts();
        for (const Column* column : {&parts.x, &parts.y, &parts.z})
            put(*column);
        put(parts.first);
        put(parts.corners);
        put(parts.part_starts);
    }
    void put(const ExactPart& part) {
        put(part.name);
        put_all(part.curves);
        put_all(part.faces);
        put_all(part.solids);
        for (const std::vector<double>& column : part.loose.places)
            put(column);
        put(part.loose.corners);
        for (const std::vector<double>& column : part.loose.numbers)
            put(column);
    }
    template <class T>
    void put_all(const std::vector<T>& list) {
        put(std::uint64_t{list.size()});
        for (const T& one : list)
            put(one);
    }
    std::string take() { return std::move(bytes_); }

private:
    void raw(const void* from, std::size_t size) { bytes_.append(static_cast<const char*>(from), size); }
    void numbers(const double* values, std::size_t count) {
        put(std::uint64_t{count});
        raw(values, count * sizeof(double));
    }
    std::string bytes_;
};

// Throws where the bytes are not what was written.
struct Broken {};

class Reader {
public:
    explicit Reader(std::string_view bytes) : rest_(bytes) {}

    double number() { return raw<double>(); }
    std::uint64_t whole() { return raw<std::uint64_t>(); }
    bool flag() { return whole() != 0; }
    std::string text() {
        const std::size_t size = count(1);
        std::string made(rest_.substr(0, size));
        rest_.remove_prefix(size);
        return made;
    }
    template <class Numbers>
    Numbers numbers() {
        using Number = typename Numbers::value_type;
        Numbers values(count(sizeof(Number)));
        if (!values.empty()) std::memcpy(values.data(), rest_.data(), values.size() * sizeof(Number));
        rest_.remove_prefix(values.size() * sizeof(Number));
        return values;
    }
    Column column() { return {numbers<Doubles>()}; }
    SplineBasis basis() {
        SplineBasis made;
        made.degree = static_cast<int>(whole());
        made.closed = flag();
        made.knots = numbers<std::vector<double>>();
        return made;
    }
    SplineCurve curve() {
        SplineCurve::Parts parts;
        parts.basis = basis();
        for (Column* into : {&parts.x, &parts.y, &parts.z, &parts.weights})
            *into = column();
        return kept(SplineCurve::make(std::move(parts)));
    }
    SplinePatch patch() {
        SplinePatch::Parts parts;
        parts.u = basis();
        parts.v = basis();
        for (Column* into : {&parts.x, &parts.y, &parts.z, &parts.weights})
            *into = column();
        parts.trims = list<SplineCurve>([this] { return curve(); });
        return kept(SplinePatch::make(std::move(parts)));
    }
    ExactSolid solid() {
        ExactSolid made;
        made.patches = list<SplinePatch>([this] { return patch(); });
        made.edges_within = number();
        if (!flag()) return made;
        Mesh::Parts parts;
        for (Column* into : {&parts.x, &parts.y, &parts.z})
            *into = column();
        parts.first = numbers<std::vector<std::uint32_t>>();
        parts.corners = numbers<std::vector<std::uint32_t>>();
        parts.part_starts = numbers<std::vector<std::uint32_t>>();
        made.mesh = kept(Mesh::make(std::move(parts)));
        return made;
    }
    ExactPart part() {
        ExactPart made;
        made.name = text();
        made.curves = list<SplineCurve>([this] { return curve(); });
        made.faces = list<SplinePatch>([this] { return patch(); });
        made.solids = list<ExactSolid>([this] { return solid(); });
        for (std::vector<double>& column : made.loose.places)
            column = numbers<std::vector<double>>();
        made.loose.corners = numbers<std::vector<std::uint32_t>>();
        for (std::vector<double>& column : made.loose.numbers)
            column = numbers<std::vector<double>>();
        return made;
    }
    template <class T, class Make>
    std::vector<T> list(Make make) {
        std::vector<T> made;
        for (std::size_t left = count(1); left > 0; --left)
            made.push_back(make());
        return made;
    }

private:
    template <class Number>
    Number raw() {
        Number value{};
        if (rest_.size() < sizeof value) throw Broken{};
        std::memcpy(&value, rest_.data(), sizeof value);
        rest_.remove_prefix(sizeof value);
        return value;
    }
    std::size_t count(std::size_t size_of_one) {
        const std::uint64_t count = whole();
        if (count > rest_.size() / size_of_one) throw Broken{};
        return static_cast<std::size_t>(count);
    }
    template <class T>
    static T kept(Result<T> made) {
        if (!made) throw Broken{};
        return *std::move(made);
    }
    std::string_view rest_;
};

}  // namespace

std::string bytes_of(const Result<ExactFile>& file) {
    Writer writer;
    writer.put(file.ok());
    if (!file) {
        writer.put(static_cast<std::uint64_t>(file.error().code));
        writer.put(file.error().message);
        writer.put(file.error().mend);
        return writer.take();
    }
    writer.put_all(file->parts);
    writer.put(file->metres_per_unit);
    writer.put_all(file->materials);
    writer.put_all(file->losses);
    return writer.take();
}

Result<ExactFile> exact_file_from(std::string_view bytes) {
    try {
        Reader reader(bytes);
        if (!reader.flag()) {
            const std::uint64_t code = reader.whole();
            std::string message = reader.text();
            if (code >= static_cast<std::uint64_t>(ErrorCode::number_of_codes) || message.empty())
                throw Broken{};
            return Error{static_cast<ErrorCode>(code), "", std::move(message), reader.text()};
        }
        ExactFile made;
        made.parts = reader.list<ExactPart>([&reader] { return reader.part(); });
        made.metres_per_unit = reader.number();
        made.materials = reader.list<std::string>([&reader] { return reader.text(); });
        made.losses = reader.list<std::string>([&reader] { return reader.text(); });
        return made;
    } catch (const Broken&) {
        return Error{ErrorCode::file_damaged, "", "could not be handed over whole", "Compute again."};
    }
}

}  // namespace plume
