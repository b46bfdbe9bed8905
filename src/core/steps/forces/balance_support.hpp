#pragma once
// What the steps share that find forms in balance: frames and meshes as nets, loads, and the way back.

#include "core/data/bar_frame.hpp"
#include "core/forces/net.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// The slot `net`: frames, and meshes by their edges.
SlotSpec net_slot();
// How a net is loaded, as sentences say it, and the slots for it.
inline constexpr const char* load_text = "[loaded=each| {weight} at each node][loaded=length| {heavy}]";
std::vector<SlotSpec> with_load_slots(std::vector<SlotSpec> slots);

// A net as the step was given it.
struct GivenNet {
    BarFrame frame;   // of a mesh its edges
    Net net;          // metres and kN
    Doubles numbers;  // of its members, by the formula, in study lengths
    double metres;    // in a study length
};
// Errors, at the slots: those of the formula, whose last line has to be of that dimension, of firmness_in(),
// of BarFrame::make(), missing_input (loads that the nodes do not carry).
Result<GivenNet> given_net(const Inputs& in, Dimension wanted, const Run& run);
// What the formula reads: numbers of members, and `border`: 1 of those along the border. `wanted`: what its
// last line is.
Result<FormulaSite> members_site(const Inputs& in, const char* wanted);

// The frame or mesh in balance: members carry ‘force’ (vertices of a mesh the mean of their edges), nodes of
// frames and vertices ‘support’, what holds them. Remarks: the largest force and where it is, what pushes,
// how far it moved.
Result<Value> in_balance(const Inputs& in, const GivenNet& given, const Balance& balance, const Run& run);

Estimate net_estimate(const Inputs& in, double bytes_each, double seconds_each);

}  // namespace plume
