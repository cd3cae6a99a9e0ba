/* identity.c: the name as compiled, the rest out of the image's own header. */
#include "core/identity.h"
#include "motion/limits.h"
#include "option_identity.h"
#include "option_plate.h"
#include "proto/print.h"

_Static_assert(BED_X_MIN < BED_X_MAX && BED_Y_MIN < BED_Y_MAX, "[bed.x.max] the plate has no area");

/* Fields of the image header, see the image format. */
enum { KIT_AT = 16, KIT_ROOM = 12, TARGET_AT = 28, TARGET_ROOM = 24, BUILD_AT = 52, BUILD_ROOM = 8 };

static void print_field(const char *name, uint32_t at, uint32_t room)
{
    print_name(name);
    for (uint32_t i = 0; i < room; i++) {
        int letter = hw_flash_read(at + i);
        if (letter <= ' ' || letter > '~') break;
        print_char((char)letter);
    }
}

static void print_span(const char *name, float from, float to)
{
    print_name(name);
    print_float(from, 1);
    print("..");
    print_float(to, 1);
}

static void who(void)
{
    print("lantern");
    print_name("name");
    print("\"" MACHINE_NAME "\"");
    print_field("kit", KIT_AT, KIT_ROOM);
    print_field("target", TARGET_AT, TARGET_ROOM);
    print_field("build", BUILD_AT, BUILD_ROOM);
    print_end();
}

static void volume(void)
{
    print("volume");
    print_span("x", limit_end(X, 0), limit_end(X, 1));
    print_span("y", limit_end(Y, 0), limit_end(Y, 1));
    print_span("z", limit_end(Z, 0), limit_end(Z, 1));
    print_span("plate-x", BED_X_MIN, BED_X_MAX);
    print_span("plate-y", BED_Y_MIN, BED_Y_MAX);
    print_end();
}

bool identity_report(int line)
{
    if (line == 0) who();
    if (line == 1) volume();
    return line < 2;
}
