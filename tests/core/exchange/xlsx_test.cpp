// Spreadsheets: opened as the archives they are, read as any reader would.

#include <zlib.h>

#include <cstring>
#include <map>

#include "core/data/bar_frame.hpp"
#include "core/exchange/export_jobs.hpp"
#include "core/geometry/parts/scattered.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

std::string sheet_of(const Value& value, LengthUnit unit = LengthUnit::metre) {
    return test::bytes_of(write_xlsx, test::job_of(value, "net", unit));
}

std::uint32_t number_at(const std::string& bytes, std::size_t at, std::size_t size) {
    std::uint32_t number = 0;
    for (std::size_t byte = 0; byte < size; ++byte)
        number |= static_cast<std::uint32_t>(static_cast<unsigned char>(bytes[at + byte])) << (8 * byte);
    return number;
}

std::string inflated(const std::string& packed, std::size_t size) {
    std::string plain(size, '\0');
    z_stream stream{};
    EXPECT_EQ(inflateInit2(&stream, -MAX_WBITS), Z_OK);
    std::string input = packed;
    stream.next_in = reinterpret_cast<Bytef*>(input.data());
    stream.avail_in = static_cast<uInt>(input.size());
    stream.next_out = reinterpret_cast<Bytef*>(plain.data());
    stream.avail_out = static_cast<uInt>(plain.size());
    EXPECT_EQ(inflate(&stream, Z_FINISH), Z_STREAM_END);
    inflateEnd(&stream);
    return plain;
}

// The files of an archive, by the directory at its end (PKWARE, APPNOTE 4.3).
std::map<std::string, std::string> files_in(const std::string& bytes) {
    std::map<std::string, std::string> files;
    const std::size_t end = bytes.rfind("PK\x05\x06");
    EXPECT_NE(end, std::string::npos);
    std::size_t entry = number_at(bytes, end + 16, 4);
    for (std::uint32_t count = number_at(bytes, end + 10, 2); count > 0; --count) {
        EXPECT_EQ(bytes.compare(entry, 4, "PK\x01\x02"), 0);
        const std::size_t packed = number_at(bytes, entry + 20, 4), plain = number_at(bytes, entry + 24, 4),
                          name = number_at(bytes, entry + 28, 2), local = number_at(bytes, entry + 42, 4);
        const std::size_t begin =
            local + 30 + number_at(bytes, local + 26, 2) + number_at(bytes, local + 28, 2);
        files[bytes.substr(entry + 46, name)] = inflated(bytes.substr(begin, packed), plain);
        entry += 46 + name + number_at(bytes, entry + 30, 2) + number_at(bytes, entry + 32, 2);
    }
    return files;
}

BarFrame triangle() {
    return *BarFrame::make({scattered({{0, 0, 0}, {3, 0, 0}, {0, 4, 0}}),
                            {{0, 1, Way::along_i, 0}, {1, 2, Way::diagonal, 0}, {2, 0, Way::along_j, 0}},
                            {{"load", Doubles{1, std::nan(""), 3}, plain_number}}});
}

TEST(Xlsx, ARowAMemberAndASumThatFollowsTheFilter) {
    const auto files = files_in(sheet_of(triangle()));
    ASSERT_TRUE(files.contains("[Content_Types].xml"));
    const std::string& sheet = files.at("xl/worksheets/sheet1.xml");
    for (const char* const wanted : {"<t>mark</t>", "<t>length m</t>", "<t>0–1</t>",
                                     "<c r=\"B2\"><v>3</v></c>", "<c r=\"B3\"><v>5</v></c>", "<t>along j</t>",
                                     "<f>SUBTOTAL(109,B2:B4)</f><v>12</v>", "<autoFilter ref=\"A1:I4\"/>"})
        EXPECT_NE(sheet.find(wanted), std::string::npos) << wanted << " in " << sheet;
    EXPECT_EQ(sheet.find("r=\"G3\""), std::string::npos) << "the number that is not finite has no cell";
    EXPECT_NE(files_in(sheet_of(triangle(), LengthUnit::millimetre))
                  .at("xl/worksheets/sheet1.xml")
                  .find("<v>5000</v>"),
              std::string::npos);
}

TEST(Xlsx, ASheetForNodesBesideMembers) {
    const auto files = files_in(sheet_of(triangle()));
    for (const char* const wanted : {"name=\"members\"", "name=\"nodes\""})
        EXPECT_NE(files.at("xl/workbook.xml").find(wanted), std::string::npos) << wanted;
    const std::string& nodes = files.at("xl/worksheets/sheet2.xml");
    for (const char* const wanted : {"<t>angles °</t>", "<t>53.1301</t>", "<autoFilter ref=\"A1:F4\"/>"})
        EXPECT_NE(nodes.find(wanted), std::string::npos) << wanted << " in " << nodes;
}

TEST(Xlsx, TheSameBytesForTheSameValues) {
    EXPECT_EQ(sheet_of(triangle()), sheet_of(triangle()));
}

TEST(Xlsx, MoreRowsThanASheetHoldsAreRefused) {
    const Value many = scattered(std::vector<Vec3>(1'048'577));
    const auto result = test::tried(write_xlsx, test::job_of(many));
    ASSERT_FALSE(result);
    EXPECT_EQ(result.error().code, ErrorCode::out_of_range);
    EXPECT_FALSE(test::tried(write_xlsx, test::job_of(CurveSet{})));
}

}  // namespace
}  // namespace plume
