// An exact file as bytes.

#include "core/base/handed_bytes.hpp"
#include "core/readers/exact_file.hpp"

namespace plume {
namespace {

class Writer : public BytesOut {
public:
    using BytesOut::put;
    void put(const Column& column) { put_numbers(column.data(), column.size()); }
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
        put_all(*this, patch.parts().trims);
    }
    void put(const ExactSolid& solid) {
        put_all(*this, solid.patches);
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
        put_all(*this, part.curves);
        put_all(*this, part.faces);
        put_all(*this, part.solids);
        for (const std::vector<double>& column : part.loose.places)
            put(column);
        put(part.loose.corners);
        for (const std::vector<double>& column : part.loose.numbers)
            put(column);
    }
};

class Reader : public BytesIn {
public:
    using BytesIn::BytesIn;

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

private:
    template <class T>
    static T kept(Result<T> made) {
        if (!made) throw BrokenBytes{};
        return *std::move(made);
    }
};

}  // namespace

std::string bytes_of(const Result<ExactFile>& file) {
    return handed_bytes<Writer>(file, [](Writer& writer, const ExactFile& whole) {
        put_all(writer, whole.parts);
        writer.put(whole.metres_per_unit);
        put_all(writer, whole.materials);
        put_all(writer, whole.losses);
    });
}

Result<ExactFile> exact_file_from(std::string_view bytes) {
    return from_handed_bytes<ExactFile, Reader>(bytes, [](Reader& reader) {
        ExactFile made;
        made.parts = reader.list<ExactPart>([&reader] { return reader.part(); });
        made.metres_per_unit = reader.number();
        made.materials = reader.list<std::string>([&reader] { return reader.text(); });
        made.losses = reader.list<std::string>([&reader] { return reader.text(); });
        return made;
    });
}

}  // namespace plume
