#pragma once
// The form in which a net of elastic links comes to rest.

#include "core/forces/net.hpp"

namespace plume {

// Of each link: how long it is without force, and what it takes to make it twice as long (E A).
struct Elasticity {
    std::vector<double> rest_m;
    std::vector<double> stiffness_kn;
    bool pushes = false;  // false: what is shorter than it would be is slack, as cables and threads are
};

// Dynamic relaxation with kinetic damping: the net moves under what is out of balance, and stands still
// whenever its energy of motion has a peak (A. S. Day: An introduction to dynamic relaxation, 1965; M. R.
// Barnes: Form finding and analysis of tension structures by dynamic relaxation, 1999). Masses are made up
// from stiffness, so that every round is stable. What is near to rest is brought there by Newton's method on
// the tangent stiffness, and so are cables that are too stiff for the rounds: their energy has one lowest
// place, which they reach beginning soft and becoming as stiff as they are. Both where there are no more than
// some ten thousand places. The same on any number of threads.
//
// What is left out of balance is at most a billionth of the largest load or force, or what rounding of places
// makes of stiff links.
// Errors: those of check_net(); out_of_range (a rest length or stiffness below 0 or no number, all stiffness
// 0); not_converged, where it does not come to rest; cancelled.
Result<Balance> relaxed_net(const Net& net, const Elasticity& elasticity, const Run& run);

// What of the links is slack.
std::size_t slack_links(const Net& net, const Balance& balance, const Elasticity& elasticity);

}  // namespace plume
