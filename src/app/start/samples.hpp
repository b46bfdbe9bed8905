#pragma once
// The studies of Sallow Reach that come with the application, by what they show. They lie in a folder with an
// index.json that puts them in order; what the index does not name is listed all the same.

#include <QString>
#include <vector>

namespace plume::app {

struct Sample {
    QString path, title, about;
    QString picture;  // may not be there
};

struct SampleGroup {
    QString title;
    std::vector<Sample> samples;
};

struct Samples {
    std::vector<Sample> first;  // those that are shown before all are asked for
    std::vector<SampleGroup> groups;
    QString problem;  // one sentence, where there are none

    std::size_t count() const;
};

// Beside the installed program, or in the project it was built in; empty where there is none.
QString samples_folder();
Samples read_samples(const QString& folder);

}  // namespace plume::app
