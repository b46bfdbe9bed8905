#include "general_soft_body.hpp"

#include <BulletCollision/CollisionDispatch/btCollisionDispatcher.h>
#include <BulletDynamics/ConstraintSolver/btSequentialImpulseConstraintSolver.h>
#include <BulletSoftBody/btSoftBody.h>
#include <BulletSoftBody/btSoftBodyHelpers.h>
#include <BulletSoftBody/btSoftBodyRigidBodyCollisionConfiguration.h>
#include <BulletSoftBody/btSoftRigidDynamicsWorld.h>
#include <btBulletCollisionCommon.h>

#include <algorithm>

namespace bench {

namespace {

btVector3 vector_of(plume::Vec3 place) {
    return {static_cast<btScalar>(place.x), static_cast<btScalar>(place.y), static_cast<btScalar>(place.z)};
}

// Squares are cut along the diagonal from their first corner.
std::vector<int> triangles_of(const plume::Mesh& mesh) {
    std::vector<int> corners;
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        for (std::size_t at = 2; at < mesh.face(face).size(); ++at)
            for (const std::size_t corner : {std::size_t{0}, at - 1, at})
                corners.push_back(static_cast<int>(mesh.face(face)[corner]));
    return corners;
}

}  // namespace

struct GeneralSoftBody::World {
    btSoftBodyRigidBodyCollisionConfiguration configuration;
    btCollisionDispatcher dispatcher{&configuration};
    btDbvtBroadphase broadphase;
    btSequentialImpulseConstraintSolver solver;
    btSoftRigidDynamicsWorld world{&dispatcher, &broadphase, &solver, &configuration};
    btStaticPlaneShape plane{btVector3(0, 0, 1), 0};
    btRigidBody ground{0, nullptr, &plane};
    std::unique_ptr<btSoftBody> body;
    struct Side {
        int a, b;
        double rest;
    };
    std::vector<Side> sides;

    ~World() {
        world.removeSoftBody(body.get());
        world.removeRigidBody(&ground);
    }
};

GeneralSoftBody::GeneralSoftBody(const plume::Mesh& mesh, const SoftBodyWishes& wishes)
    : world_(std::make_unique<World>()) {
    const btVector3 gravity(0, 0, btScalar(-9.81));
    world_->world.setGravity(gravity);
    world_->world.getWorldInfo().m_gravity = gravity;
    world_->world.getWorldInfo().air_density = 0;
    std::vector<btVector3> at;
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
        at.push_back(vector_of(mesh.vertex(vertex)));
    world_->body = std::make_unique<btSoftBody>(&world_->world.getWorldInfo(), static_cast<int>(at.size()),
                                                at.data(), nullptr);
    btSoftBody& body = *world_->body;
    const std::vector<int> corners = triangles_of(mesh);
    for (std::size_t first = 0; first < corners.size(); first += 3) {
        for (std::size_t side = 0; side < 3; ++side)
            body.appendLink(corners[first + side], corners[first + (side + 1) % 3], nullptr, true);
        body.appendFace(corners[first], corners[first + 1], corners[first + 2]);
    }
    body.m_materials[0]->m_kLST = 1;
    body.m_cfg.piterations = wishes.times_a_step;
    body.m_cfg.collisions =
        wishes.clusters > 0 ? btSoftBody::fCollision::CL_SELF | btSoftBody::fCollision::CL_SS : 0;
    body.getCollisionShape()->setMargin(static_cast<btScalar>(wishes.thickness));
    body.setTotalMass(static_cast<btScalar>(wishes.weight * wishes.area), true);
    for (const std::uint32_t vertex : wishes.held)
        body.setMass(static_cast<int>(vertex), 0);
    if (wishes.clusters > 0) body.generateClusters(wishes.clusters);
    world_->world.addSoftBody(&body);
    if (wishes.ground) {
        btTransform lifted = btTransform::getIdentity();
        lifted.setOrigin(btVector3(0, 0, static_cast<btScalar>(*wishes.ground)));
        world_->ground.setWorldTransform(lifted);
        world_->world.addRigidBody(&world_->ground);
        body.m_cfg.collisions |= btSoftBody::fCollision::SDF_RS;
    }
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto around = mesh.face(face);
        for (std::size_t corner = 0; corner < around.size(); ++corner) {
            const std::uint32_t a = around[corner], b = around[(corner + 1) % around.size()];
            world_->sides.push_back(
                {static_cast<int>(a), static_cast<int>(b), length(mesh.vertex(b) - mesh.vertex(a))});
        }
    }
}

GeneralSoftBody::~GeneralSoftBody() = default;

void GeneralSoftBody::step(double seconds) {
    const auto whole = static_cast<btScalar>(seconds);
    world_->world.stepSimulation(whole, 1, whole);
}

double GeneralSoftBody::most_stretched() const {
    double most = 0;
    for (const World::Side& side : world_->sides) {
        const btVector3 way = world_->body->m_nodes[side.b].m_x - world_->body->m_nodes[side.a].m_x;
        most = std::max(most, static_cast<double>(way.length()) / side.rest - 1);
    }
    return most;
}

}  // namespace bench
