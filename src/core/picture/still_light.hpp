#pragma once
// What lights a still picture: a soft light from behind whoever looks, or the sun with a sky that suits its
// height. Colours are linear, such that a white face in the open comes to about 1.

#include "core/picture/still_scene.hpp"

namespace plume {

struct StillLight {
    Vec3 towards;       // unit
    double spread = 0;  // tangent of half the angle it is seen under
    Colour direct;      // of a face square to it
    Colour ambient;     // what comes from everywhere, whatever stands around
    Colour blocked;     // from where something stands before the sky: what that sends on
    Colour zenith, horizon, below;

    // What of the ground's brightness is left in the shadow of everything, and what the light gives to it.
    float ground_left = 0, ground_direct = 0;
    // How much brighter than it lights the sky itself is seen behind the form; 0: it is not.
    float sky_seen = 0;

    // From a direction where nothing stands in the way, unit.
    Colour sky(Vec3 from) const;
};

StillLight soft_light(const Camera& camera);
StillLight sun_light(Vec3 towards);

}  // namespace plume
