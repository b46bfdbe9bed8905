#pragma once
// Names made to differ: the second ‘a’ is ‘a_2’. O(1) a name, however many are alike.

#include <string>
#include <unordered_map>
#include <unordered_set>

namespace plume {

class UniqueNames {
public:
    std::string take(const std::string& wanted) {
        std::string name = wanted;
        for (int& number = last_[wanted]; !taken_.insert(name).second;)
            name = wanted + "_" + std::to_string(number = number < 2 ? 2 : number + 1);
        return name;
    }

private:
    std::unordered_set<std::string> taken_;
    std::unordered_map<std::string, int> last_;
};

}  // namespace plume
