/* The same work with the native libraries of the trade: libsndfile reads and writes, libsoxr converts at its very high quality
   in float64, the result is rounded to 24 bit with TPDF dither. With "careful" each file is forced to disk and read again for its
   XXH128, as Able Crate does. Usage: reference plain|careful OUT_RATE OUT_FOLDER FILE... */
#include <fcntl.h>
#include <math.h>
#include <xxhash.h>
#include <sndfile.h>
#include <soxr.h>
#include <stdint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

#define BLOCK 8192

static uint64_t state = 1;

static double uniform(void) {
    state = state * 6364136223846793005ULL + 1442695040888963407ULL;
    return (double)(state >> 11) * 0x1p-53;
}

static int convert(const char *in_path, const char *out_path, int out_rate) {
    SF_INFO in_info = {0}, out_info = {0};
    SNDFILE *in = sf_open(in_path, SFM_READ, &in_info);
    if (!in) return 1;
    out_info.samplerate = out_rate;
    out_info.channels = in_info.channels;
    out_info.format = SF_FORMAT_WAV | SF_FORMAT_PCM_24;
    SNDFILE *out = sf_open(out_path, SFM_WRITE, &out_info);
    if (!out) return 1;
    soxr_io_spec_t io = soxr_io_spec(SOXR_FLOAT64_I, SOXR_FLOAT64_I);
    soxr_quality_spec_t quality = soxr_quality_spec(SOXR_VHQ, 0);
    soxr_runtime_spec_t runtime = soxr_runtime_spec(1);
    soxr_error_t error;
    soxr_t converter = soxr_create(in_info.samplerate, out_rate, in_info.channels, &error, &io, &quality, &runtime);
    if (error) return 1;
    size_t out_block = (size_t)(BLOCK * (double)out_rate / in_info.samplerate) + 64;
    double *x = malloc(sizeof(double) * BLOCK * in_info.channels), *y = malloc(sizeof(double) * out_block * in_info.channels);
    int *packed = malloc(sizeof(int) * out_block * in_info.channels);
    for (;;) {
        sf_count_t got = sf_readf_double(in, x, BLOCK);
        size_t done = 0;
        do {
            size_t used;
            soxr_process(converter, got ? x : NULL, (size_t)got, &used, y, out_block, &done);
            for (size_t i = 0; i < done * in_info.channels; i++) {
                double v = floor(y[i] * 8388608.0 + uniform() + uniform() - 0.5);
                packed[i] = (int)(v > 8388607 ? 8388607 : v < -8388608 ? -8388608 : v) * 256;
            }
            sf_writef_int(out, packed, (sf_count_t)done);
        } while (!got && done);
        if (!got) break;
    }
    soxr_delete(converter);
    sf_close(in);
    sf_close(out);
    free(x);
    free(y);
    free(packed);
    return 0;
}

static int secure(const char *path) {
    static unsigned char buffer[1 << 17];
    XXH3_state_t *hash = XXH3_createState();
    int file = open(path, O_RDONLY);
    if (file < 0 || fsync(file)) return 1;
    XXH3_128bits_reset(hash);
    for (ssize_t got; (got = read(file, buffer, sizeof buffer)) > 0;) XXH3_128bits_update(hash, buffer, (size_t)got);
    XXH128_hash_t sum = XXH3_128bits_digest(hash);
    XXH3_freeState(hash);
    /* Used, so that the compiler cannot leave it out. */
    return close(file) || (sum.low64 == 0 && sum.high64 == 0);
}

int main(int argc, char **argv) {
    int careful = argc > 1 && !strcmp(argv[1], "careful");
    for (int i = 4; i < argc; i++) {
        const char *name = strrchr(argv[i], '/');
        char out_path[4096];
        snprintf(out_path, sizeof out_path, "%s/%s", argv[3], name ? name + 1 : argv[i]);
        if (convert(argv[i], out_path, atoi(argv[2])) || (careful && secure(out_path))) {
            fprintf(stderr, "cannot convert %s\n", argv[i]);
            return 1;
        }
    }
    return 0;
}
