/* fat.c: boot sector, chains, the root folder. One block is held at a time. Offsets are those of the FAT specification. */
#include "card/fat.h"
#include "hal/hw.h"

#if CARD_PRINT
enum { BLOCK = 512, ENTRY = 32, PER_BLOCK = BLOCK / ENTRY, NO_BLOCK = -1 };
enum { FREE_NAME = 0xe5, LAST_NAME = 0, IS_VOLUME = 8, IS_FOLDER = 16, SHORT_NAME = 11 };
#define END_OF_CHAIN 0x0ffffff8u
#define CLUSTER_BITS 0x0fffffffu

static uint8_t held[BLOCK];
static int64_t held_block = NO_BLOCK;
static uint32_t fat_from, data_from, blocks_a_fat, root;
static uint8_t blocks_a_cluster, fats;

/* Where reading stands; the cluster that is held is the nth of the file, and follows the place when a byte is asked for. */
static struct fat_file open_file;
static uint32_t cluster, nth_cluster, place;

static bool hold(uint32_t block)
{
    if (held_block == block) return true;
    held_block = NO_BLOCK;
    if (!hw_card_read(block, held)) return false;
    held_block = block;
    return true;
}

static uint32_t word_at(uint32_t at) { return (uint32_t)(held[at] | held[at + 1] << 8); }
static uint32_t long_at(uint32_t at) { return word_at(at) | word_at(at + 2) << 16; }

static uint32_t first_block(uint32_t of) { return data_from + (of - 2) * blocks_a_cluster; }

/* The cluster that follows; 0 when it cannot be read or names none. */
static uint32_t next_cluster(uint32_t of)
{
    if (!hold(fat_from + of / (BLOCK / 4))) return 0;
    uint32_t next = long_at(of % (BLOCK / 4) * 4) & CLUSTER_BITS;
    return next < 2 ? 0 : next;
}

bool fat_mount(void)
{
    held_block = NO_BLOCK;
    if (!hw_card_there() || !hold(0)) return false;
    /* A table of partitions lies before it, or the card begins with it. */
    uint32_t boot = held[0] == 0xeb || held[0] == 0xe9 ? 0 : long_at(446 + 8);
    if (!hold(boot) || word_at(510) != 0xaa55 || word_at(11) != BLOCK || word_at(17) != 0) return false;
    blocks_a_cluster = held[13];
    fats = held[16];
    blocks_a_fat = long_at(36);
    root = long_at(44);
    fat_from = boot + word_at(14);
    data_from = fat_from + fats * blocks_a_fat;
    return blocks_a_cluster != 0 && blocks_a_fat != 0 && root >= 2;
}

/* Goes through the root's entries; false behind the last. The entry is held then. */
static bool root_entry(uint32_t index, uint32_t *at)
{
    uint32_t block = index / PER_BLOCK, of = root;
    for (; block >= blocks_a_cluster; block -= blocks_a_cluster) {
        of = next_cluster(of);
        if (!of || of >= END_OF_CHAIN) return false;
    }
    if (!hold(first_block(of) + block)) return false;
    *at = index % PER_BLOCK * ENTRY;
    return true;
}

static void take_name(const uint8_t *entry, char *name)
{
    int length = 0;
    for (int i = 0; i < SHORT_NAME; i++) {
        if (i == 8 && entry[8] != ' ') name[length++] = '.';
        if (entry[i] != ' ') name[length++] = (char)entry[i];
    }
    name[length] = 0;
}

static bool prints(const uint8_t *entry)
{
    if (entry[0] == FREE_NAME || entry[11] & (IS_VOLUME | IS_FOLDER)) return false;
    return entry[8] == 'G' && ((entry[9] == 'C' && entry[10] == 'O') || (entry[9] == ' ' && entry[10] == ' '));
}

static void take_entry(uint32_t at, struct fat_file *file)
{
    take_name(&held[at], file->name);
    file->first = word_at(at + 26) | word_at(at + 20) << 16;
    file->bytes = long_at(at + 28);
}

bool fat_file(int nth, struct fat_file *file)
{
    uint32_t at;
    for (uint32_t index = 0; root_entry(index, &at) && held[at] != LAST_NAME; index++) {
        if (!prints(&held[at]) || nth--) continue;
        take_entry(at, file);
        return true;
    }
    return false;
}

static bool same_name(const char *one, const char *other)
{
    while (*one && *one == *other) { one++; other++; }
    return *one == *other;
}

bool fat_holds(const struct fat_file *file)
{
    uint32_t at;
    for (uint32_t index = 0; root_entry(index, &at) && held[at] != LAST_NAME; index++) {
        if (!prints(&held[at])) continue;
        struct fat_file found;
        take_entry(at, &found);
        if (found.first == file->first && found.bytes == file->bytes && same_name(found.name, file->name)) return true;
    }
    return false;
}

void fat_open(const struct fat_file *file, uint32_t at)
{
    open_file = *file;
    cluster = file->first;
    nth_cluster = 0;
    place = at;
}

int fat_next(void)
{
    if (place >= open_file.bytes) return FAT_END;
    uint32_t a_cluster = (uint32_t)blocks_a_cluster * BLOCK;
    for (; nth_cluster < place / a_cluster; nth_cluster++) {
        uint32_t next = next_cluster(cluster);
        if (!next || next >= END_OF_CHAIN) return FAT_UNREADABLE;
        cluster = next;
    }
    if (!hold(first_block(cluster) + place % a_cluster / BLOCK)) return FAT_UNREADABLE;
    return held[place++ % BLOCK];
}

uint32_t fat_at(void) { return place; }

#if !CARD_LOCKED
static void put_long(uint32_t at, uint32_t value)
{
    for (int i = 0; i < 4; i++) held[at + (uint32_t)i] = (uint8_t)(value >> 8 * i);
}

/* Takes a free cluster as a chain of its own, in every FAT. */
static uint32_t take_cluster(void)
{
    for (uint32_t block = 0; block < blocks_a_fat; block++) {
        if (!hold(fat_from + block)) return 0;
        for (uint32_t i = block ? 0 : 3; i < BLOCK / 4; i++) {
            if (long_at(i * 4) & CLUSTER_BITS) continue;
            put_long(i * 4, CLUSTER_BITS);
            for (uint32_t copy = 0; copy < fats; copy++)
                if (!hw_card_write(fat_from + copy * blocks_a_fat + block, held)) return 0;
            return block * (BLOCK / 4) + i;
        }
    }
    return 0;
}

static bool named(const uint8_t *entry, const char name[SHORT_NAME])
{
    for (int i = 0; i < SHORT_NAME; i++)
        if (entry[i] != (uint8_t)name[i]) return false;
    return true;
}

uint32_t fat_block_of(const char name[SHORT_NAME], bool make)
{
    uint32_t at, room = UINT32_MAX;
    for (uint32_t index = 0; root_entry(index, &at); index++) {
        if (named(&held[at], name)) return first_block(word_at(at + 26) | word_at(at + 20) << 16);
        bool last = held[at] == LAST_NAME;
        if (room == UINT32_MAX && (last || held[at] == FREE_NAME)) room = index;
        if (last) break;
    }
    uint32_t taken = make && room != UINT32_MAX ? take_cluster() : 0;
    if (!taken || !root_entry(room, &at)) return 0;
    for (uint32_t i = 0; i < ENTRY; i++) held[at + i] = i < SHORT_NAME ? (uint8_t)name[i] : 0;
    held[at + 20] = (uint8_t)(taken >> 16);
    held[at + 21] = (uint8_t)(taken >> 24);
    held[at + 26] = (uint8_t)taken;
    held[at + 27] = (uint8_t)(taken >> 8);
    put_long(at + 28, BLOCK);
    return hw_card_write((uint32_t)held_block, held) ? first_block(taken) : 0;
}
#endif
#endif
