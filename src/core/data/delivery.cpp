#include "core/data/delivery.hpp"

#include "core/base/text.hpp"

namespace plume {

std::string outline_text(const DeliveryContent& delivery) {
    return count_text(delivery.results.size(), "result", "results") + " to " + delivery.file +
           delivery.ending;
}

}  // namespace plume
