// Programs over domains, against plain loops.
#include "core/formula/program.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <numeric>

#include "core/base/parallel.hpp"
#include "core/formula/formula.hpp"

namespace plume {
namespace {

FormulaSetting setting() {
    FormulaSetting made;
    made.inputs = {{"a", plain_number, InputRef{InputType::loop_value, 0}, ""},
                   {"b", plain_number, InputRef{InputType::loop_value, 1}, ""},
                   {"c", plain_number, InputRef{InputType::loop_value, 2}, ""},
                   {"i", plain_number, InputRef{InputType::loop_index, 0}, ""},
                   {"j", plain_number, InputRef{InputType::loop_index, 1}, ""},
                   {"u", plain_number, InputRef{InputType::loop_share, 0}, ""},
                   {"w", plain_number, InputRef{InputType::column, 0}, ""}};
    return made;
}

Domain domain(std::size_t na, std::size_t nb, std::size_t nc) {
    Domain made;
    made.directions[0] = {na, -1, 2, false};
    made.directions[1] = {nb, 0.5, 3, false};
    made.directions[2] = {nc, 1, 4, false};
    return made;
}

std::vector<double> ramp(std::size_t count) {
    std::vector<double> values(count);
    std::iota(values.begin(), values.end(), 0.25);
    return values;
}

Evaluated computed(const char* text, const Domain& over, Keep keep = Keep::columns) {
    const auto formula = check_formula(text, setting());
    EXPECT_TRUE(formula) << sentence(formula.error());
    std::vector<NodeId> outputs;
    for (const Term& term : formula->terms)
        outputs.push_back(term.node);
    auto result = evaluate(formula->graph, outputs, over, keep, plume::Run());
    EXPECT_TRUE(result);
    return *std::move(result);
}

// Every shape of domain that is cut differently: one point, short and long rows, one direction only, three.
TEST(Program, EveryDomainGivesWhatAPlainLoopGives) {
    const std::size_t shapes[][3] = {{1, 1, 1},    {7, 1, 1},   {1, 9, 1},   {1, 1, 11},
                                     {1000, 1, 1}, {5, 300, 1}, {300, 5, 1}, {13, 17, 9},
                                     {129, 3, 8},  {1, 400, 3}, {2, 2, 700}, {700, 40, 1}};
    for (const auto& shape : shapes) {
        Domain over = domain(shape[0], shape[1], shape[2]);
        const std::vector<double> column = ramp(over.size());
        over.columns = {column};
        const Evaluated result = computed(
            "p = exp(a) + a * a\n"         // hangs on one direction
            "q = p * (b + 1) + sqrt(b)\n"  // on two
            "r = q - c * b + i - 2 * j + u\n"
            "s = w * r\n"
            "t = c\n"  // a bare loop variable
            "k = 4\n"  // a constant
            "again = q\n",
            over);
        ASSERT_EQ(result.columns.size(), 7U);
        for (std::size_t at = 0; at < over.size(); ++at) {
            const std::size_t i = at % shape[0], j = at / shape[0] % shape[1], k = at / shape[0] / shape[1];
            const double a = over.directions[0].value(i), b = over.directions[1].value(j),
                         c = over.directions[2].value(k);
            const double p = std::exp(a) + a * a, q = p * (b + 1) + std::sqrt(b);
            const double r =
                q - c * b + static_cast<double>(i) - 2 * static_cast<double>(j) + over.directions[0].share(i);
            const double wanted[] = {p, q, r, column[at] * r, c, 4, q};
            for (std::size_t output = 0; output < 7; ++output)
                ASSERT_NEAR(result.columns[output][at], wanted[output],
                            1e-12 * (1 + std::abs(wanted[output])))
                    << shape[0] << 'x' << shape[1] << 'x' << shape[2] << " output " << output << " at " << at;
        }
    }
}

TEST(Program, LoopEndsAreExactAndClosedOnesStopShort) {
    const Direction open{11, 0.1, 0.7, false};
    EXPECT_EQ(open.value(0), 0.1);
    EXPECT_EQ(open.value(10), 0.7);
    EXPECT_NEAR(open.value(5), 0.4, 1e-15);
    EXPECT_EQ(open.share(10), 1);
    const Direction closed{10, 0, 0.9, true};
    EXPECT_EQ(closed.share(9), 0.9);
    const Direction single{1, 5, 5, false};
    EXPECT_EQ(single.value(0), 5);
    EXPECT_EQ(single.share(0), 0);
}

TEST(Program, SurveysCountAndLocateWhatIsNotFinite) {
    const Domain over = domain(301, 7, 1);
    for (const Keep keep : {Keep::columns, Keep::surveys_only}) {
        const Evaluated result =
            computed("f = if(i == 40 and j == 2, ln(a - a), i)\ng = sqrt(j - 3)", over, keep);
        EXPECT_EQ(result.surveys[0].not_finite, 1U);
        EXPECT_EQ(result.surveys[0].first_not_finite, 40U + 301 * 2);
        EXPECT_EQ(result.surveys[0].least, 0);
        EXPECT_EQ(result.surveys[0].most, 300);
        EXPECT_EQ(result.surveys[1].not_finite, 3U * 301) << "j = 0, 1, 2";
        EXPECT_EQ(result.surveys[1].first_not_finite, 0U);
        EXPECT_EQ(result.columns[0].size(), keep == Keep::columns ? over.size() : 0U);
    }
}

// Blocks are cut by the domain alone; evaluating twice, whatever the threads do, gives the same bits.
TEST(Program, RunsRepeatBitByBit) {
    const Domain over = domain(997, 211, 1);
    const char* text = "f = sin(a * b) * exp(-a) + noise(a * 5, b * 5) + random(3)";
    const Evaluated first = computed(text, over);
    for (int round = 0; round < 5; ++round)
        EXPECT_EQ(computed(text, over).columns[0], first.columns[0]);
}

TEST(Program, CancelledRunsSaySo) {
    const auto formula = check_formula("f = sin(a)", setting());
    const plume::Run run;
    run.cancel();
    const std::vector<NodeId> outputs{formula->terms[0].node};
    const auto result = evaluate(formula->graph, outputs, domain(1000, 1000, 1), Keep::columns, run);
    ASSERT_FALSE(result);
    EXPECT_EQ(result.error().code, ErrorCode::cancelled);
}

TEST(Program, AnEmptyDomainGivesNothing) {
    const Evaluated result = computed("f = a", domain(0, 5, 1));
    EXPECT_TRUE(result.columns[0].empty());
    EXPECT_EQ(result.surveys[0].not_finite, 0U);
}

TEST(Graph, CommonPartsStandOnce) {
    const auto formula = check_formula("p = sin(a) * (b + 1)\nq = (1 + b) * sin(a) + sin(a)", setting());
    ASSERT_TRUE(formula);
    int sines = 0;
    for (NodeId node = 0; node < formula->graph.size(); ++node)
        if (formula->graph[node].type == Node::Type::operation &&
            formula->graph[node].operation == Operation::sine)
            ++sines;
    EXPECT_EQ(sines, 1);
}

TEST(Graph, ConstantsFoldAndSmallPowersAreProducts) {
    const auto formula = check_formula("p = a * (2 + 3 * sin(30))\nq = a^2\nr = a^3.5", setting());
    ASSERT_TRUE(formula);
    const Graph& graph = formula->graph;
    const Node& p = graph[formula->terms[0].node];
    EXPECT_EQ(p.operation, Operation::multiply);
    EXPECT_TRUE(graph.is_constant(p.operands[0]) || graph.is_constant(p.operands[1]));
    EXPECT_EQ(graph[formula->terms[1].node].operation, Operation::multiply);
    EXPECT_EQ(graph[formula->terms[2].node].operation, Operation::power);
}

}  // namespace
}  // namespace plume
