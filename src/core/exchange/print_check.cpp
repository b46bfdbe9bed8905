#include "core/exchange/print_check.hpp"

#include "core/base/text.hpp"
#include "core/data/place_text.hpp"
#include "core/geometry/meshes/mesh_faults.hpp"
#include "core/geometry/meshes/mesh_pieces.hpp"
#include "core/geometry/meshes/mesh_volume.hpp"
#include "core/geometry/moves/copies.hpp"

namespace plume {
namespace {

// Of the size: printers' programs take vertices so near for one.
constexpr double hardly_apart = 1e-9;

bool lies_in(const Box& inner, const Box& outer) {
    return inner.low.x >= outer.low.x && inner.low.y >= outer.low.y && inner.low.z >= outer.low.z &&
           inner.high.x <= outer.high.x && inner.high.y <= outer.high.y && inner.high.z <= outer.high.z;
}

class PrintCheck {
public:
    PrintCheck(const Mesh& mesh, const Units& units)
        : mesh_(mesh), size_(mesh.bounds().diagonal()), units_(units) {}

    Status run(const Run& run) const {
        const auto faults = faults_of(mesh_, 0, run);
        if (!faults) return faults.error();
        if (!faults->open.empty())
            return error(count_text(faults->open.size(), "open edge", "open edges"),
                         middle_of(faults->open.front()),
                         "Fill its holes, thicken it, or write it without the check for print.");
        if (!faults->branched.empty())
            return error(count_text(faults->branched.size(), "edge of more than two faces",
                                    "edges of more than two faces"),
                         middle_of(faults->branched.front()), "Join the bodies that meet there into one.");
        if (!faults->crooked.empty())
            return error(count_text(faults->crooked.size(), "edge whose faces turn against each other",
                                    "edges whose faces turn against each other"),
                         middle_of(faults->crooked.front()), "Turn its faces alike.");
        if (!faults->crossing.empty())
            return error(
                count_text(faults->crossing.size(), "face that others cross", "faces that others cross"),
                middle_of(faults->crossing.front()), "Join the bodies that cross into one.");
        return check_outward();
    }

private:
    struct Piece {
        Box box;
        double volume = 0;
        std::uint32_t first_face = 0;
    };

    Error error(const std::string& fault, Vec3 first, std::string mend) const {
        return {ErrorCode::has_gaps, "",
                "cannot be printed: it has " + fault + ", the first at " + place_text(first, size_, units_),
                std::move(mend)};
    }
    Vec3 middle_of(const MeshSide& side) const {
        return (mesh_.vertex(side.first) + mesh_.vertex(side.second)) * 0.5;
    }
    Vec3 middle_of(std::uint32_t face) const {
        Vec3 sum;
        for (const std::uint32_t corner : mesh_.face(face))
            sum = sum + mesh_.vertex(corner);
        return sum * (1 / static_cast<double>(mesh_.face(face).size()));
    }

    std::vector<Piece> measured_pieces() const {
        const MeshPieces pieces = pieces_of(mesh_);
        std::vector<Piece> measured(pieces.count);
        const Vec3 from = mesh_.bounds().centre();
        for (std::uint32_t face = 0; face < mesh_.face_count(); ++face) {
            Piece& piece = measured[pieces.of_face[face]];
            if (piece.box.empty()) piece.first_face = face;
            for (const std::uint32_t corner : mesh_.face(face))
                piece.box.include(mesh_.vertex(corner));
            piece.volume += dot(middle_of(face) - from, area_vector(mesh_, face)) / 3;
        }
        return measured;
    }
    // A piece turned inwards is a hollow, if it lies in another one.
    Status check_outward() const {
        const std::vector<Piece> pieces = measured_pieces();
        for (const Piece& piece : pieces) {
            const bool lies_in_another = std::ranges::any_of(pieces, [&](const Piece& other) {
                return other.volume > -piece.volume && lies_in(piece.box, other.box);
            });
            if (!(piece.volume > 0) && !lies_in_another)
                return error("faces that are turned inwards", middle_of(piece.first_face), "Turn them over.");
        }
        return Done{};
    }

    const Mesh& mesh_;
    double size_;
    const Units& units_;
};

}  // namespace

Status check_for_print(const std::vector<SceneObject>& scene, const ExportJob& job, const Run& run) {
    if (!job.for_print) return Done{};
    for (const SceneObject& object : scene) {
        const Mesh& mesh = *object.form.facets;
        const Mesh whole = welded(mesh, hardly_apart * mesh.bounds().diagonal());
        if (Status fit = PrintCheck(whole, job.study_units).run(run); !fit)
            return error_at(fit.error(), "‘" + object.name + "’");
    }
    return Done{};
}

}  // namespace plume
