/* fat.h: files in the root of a FAT32 card, by their short names. */
#pragma once
#include "option_card.h"
#include <stdbool.h>
#include <stdint.h>
#if CARD_PRINT
enum { FAT_NAME = 13 };
struct fat_file {
    char name[FAT_NAME]; /* as in PART.GCO */
    uint32_t first, bytes;
};
/* Looks at the card that is in now. False: there is none, or it is not FAT32. */
bool fat_mount(void);
/* The nth file that holds G-code (.GCO, .G); false when there are no more. */
bool fat_file(int nth, struct fat_file *file);
/* Whether the card still has a file as it was: its name, its place and its length. */
bool fat_holds(const struct fat_file *file);
/* Goes to a place in a file. */
void fat_open(const struct fat_file *file, uint32_t at);
/* The next byte, or one of these. */
enum { FAT_END = -1, FAT_UNREADABLE = -2 };
int fat_next(void);
/* Where the next byte lies in the file. */
uint32_t fat_at(void);
/* The block of a file of one block; where there is none it is made, if asked for. 0 when there is none. */
uint32_t fat_block_of(const char name[11], bool make);
#endif
