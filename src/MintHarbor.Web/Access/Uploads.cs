using MintHarbor.Core;
using MintHarbor.Media;

namespace MintHarbor.Web.Access;

/// <summary>What comes in as a file.</summary>
public static class Uploads
{
    public static async Task<byte[]> Bytes(this IFormFile file)
    {
        using var memory = new MemoryStream((int)file.Length);
        await file.CopyToAsync(memory);
        return memory.ToArray();
    }

    /// <summary>A photograph's bytes, read as such later on.</summary>
    /// <exception cref="InputException">Larger than a photograph may be.</exception>
    public static Task<byte[]> Photograph(this IFormFile file, string field) =>
        file.Length <= Photo.MostBytes
            ? file.Bytes()
            : throw new InputException(
                $"a photograph of {Say.Number(file.Length / 1048576.0, 1)} MB",
                field,
                $"up to {Photo.MostBytes >> 20} MB"
            );
}
